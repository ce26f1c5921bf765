<script lang="ts">
  import TimeInput from '$lib/ui/form/TimeInput.svelte';
  import Labelled from './Labelled.svelte';

  /** At which time of day a ring time rings; null leaves it to the notice time. */
  interface Props {
    value: string | null;
    label?: string;
    onchange: (time: string | null) => void;
  }

  let { value, label = 'Time of day', onchange }: Props = $props();
</script>

<Labelled label="Time"><TimeInput class="value time" {value} {label} {onchange} /></Labelled>
