<script lang="ts">
  import type { DateExpression } from '$lib/core/rule/acts.ts';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import { unitOptions } from './words.ts';

  /** A date as a rule writes it down: “today + 5 working days”, “same weekday next week”, none. */
  interface Props {
    date: DateExpression;
    onchange: (date: DateExpression) => void;
  }

  let { date, onchange }: Props = $props();
  const from = $derived('from' in date ? date.from : 'weekday' in date ? 'weekday' : 'none');
  const counted = $derived('from' in date ? date : null);
  const FROM = {
    today: 'today +',
    due: 'its due date +',
    start: 'its start date +',
    weekday: 'same weekday next week',
    none: 'no date'
  } as const;

  function setFrom(to: keyof typeof FROM) {
    if (to === 'none') onchange({ none: true });
    else if (to === 'weekday') onchange({ weekday: 'next week' });
    else onchange({ from: to, n: counted?.n ?? 1, unit: counted?.unit ?? 'workday' });
  }
</script>

<Pick label="Counted from" options={wordOptions(FROM)} value={from} onchange={setFrom} />
{#if counted}
  <NumberValue
    label="How many later"
    min={-10_000}
    value={counted.n}
    onchange={(n) => n !== null && onchange({ ...counted, n })}
  />
  <Pick
    label="In which unit"
    options={unitOptions(counted.n).filter(({ value }) =>
      ['workday', 'day', 'week', 'month'].includes(value)
    )}
    value={counted.unit}
    onchange={(unit) => onchange({ ...counted, unit: unit as typeof counted.unit })}
  />
{/if}
