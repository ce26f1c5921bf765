<script lang="ts">
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import Labelled from './Labelled.svelte';

  /** At which time of day a ring time rings; null leaves it to the notice time. */
  interface Props {
    value: string | null;
    label?: string;
    onchange: (time: string | null) => void;
  }

  let { value, label = 'Time of day', onchange }: Props = $props();
</script>

<Labelled label="Time"><TimeField class="value time" {value} {label} {onchange} /></Labelled>
