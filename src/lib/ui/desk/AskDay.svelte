<script lang="ts">
  import { untrack, type Snippet } from 'svelte';
  import LaterDateField from '$lib/ui/form/date/LaterDateField.svelte';

  /** Asks for a date on somebody's own calendar, and does with it what is offered. */
  interface Props {
    label: string;
    /** Where it begins, `YYYY-MM-DD`. */
    value?: string | null;
    min: string;
    personId: number;
    /** What is offered for the date; none while there is no date. */
    children: Snippet<[date: string | null]>;
  }

  let { label, value = null, min, personId, children }: Props = $props();
  let date = $state(untrack(() => value));
</script>

<LaterDateField
  {label}
  value={date}
  {min}
  of={{ person: personId }}
  atOnce
  live
  onchange={(day) => (date = day)}
/>
{@render children(date)}
