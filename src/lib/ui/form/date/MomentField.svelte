<script lang="ts">
  import type { DaysOf } from '$lib/view/days.ts';
  import DateField from './DateField.svelte';
  import TimeField from './TimeField.svelte';

  /** A date with its time of day, in two fields beside each other. */
  interface Props {
    /** `YYYY-MM-DDTHH:MM`; empty is none. */
    value: string;
    /** What it is of: “Until”. */
    label: string;
    of?: DaysOf;
    /** With the time left empty it is that of `usual`. */
    usual?: string;
    onchange: (moment: string) => void;
    'aria-describedby'?: string;
    'aria-invalid'?: boolean;
  }

  let { value, label, of, usual = '00:00', onchange, ...rest }: Props = $props();
  const date = $derived(value.slice(0, 10));
  const time = $derived(value.slice(11));

  const write = (day: string, at: string) => onchange(day === '' ? '' : `${day}T${at || usual}`);
</script>

<span class="moment">
  <DateField
    value={date}
    label="{label}, day"
    {of}
    onchange={(day) => write(day ?? '', time)}
    onfault={(typed) => onchange(typed)}
    {...rest}
  />
  <TimeField class="value" value={time} label="{label}, time" onchange={(at) => write(date, at ?? '')} />
</span>

<style>
  .moment {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 6px;
  }
</style>
