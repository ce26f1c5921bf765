<script lang="ts">
  import type { DateExpression } from '$lib/core/rule/acts.ts';

  /** A date as a rule writes it down: “today + 5 working days”, “same weekday next week”, none. */
  interface Props {
    date: DateExpression;
    onchange: (date: DateExpression) => void;
  }

  let { date, onchange }: Props = $props();
  const from = $derived('from' in date ? date.from : 'weekday' in date ? 'weekday' : 'none');
  const counted = $derived('from' in date ? date : null);

  function setFrom(to: string) {
    if (to === 'none') onchange({ none: true });
    else if (to === 'weekday') onchange({ weekday: 'next week' });
    else onchange({ from: to as 'today', n: counted?.n ?? 1, unit: counted?.unit ?? 'workday' });
  }
</script>

<select
  class="value"
  aria-label="Counted from"
  value={from}
  onchange={(event) => setFrom(event.currentTarget.value)}
>
  <option value="today">today +</option><option value="due">its due date +</option><option value="start"
    >its start date +</option
  >
  <option value="weekday">same weekday next week</option><option value="none">no date</option>
</select>
{#if counted}
  <input
    class="value"
    type="number"
    aria-label="How many units on"
    value={counted.n}
    onchange={(event) => onchange({ ...counted, n: Math.trunc(Number(event.currentTarget.value)) || 0 })}
  />
  <select
    class="value"
    aria-label="In which unit"
    value={counted.unit}
    onchange={(event) => onchange({ ...counted, unit: event.currentTarget.value as 'day' })}
  >
    <option value="workday">working days</option><option value="day">days</option><option value="week"
      >weeks</option
    ><option value="month">months</option>
  </select>
{/if}

<style>
  input {
    width: 60px;
  }
</style>
