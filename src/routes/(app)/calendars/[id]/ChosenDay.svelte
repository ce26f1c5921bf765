<script lang="ts">
  import { typedIntervals, type DayDraft } from '$lib/view/calendars.ts';

  /** One day of a calendar, to be closed or given other hours. */
  interface Props {
    date: string;
    /** Absent: it is as its weekday. */
    day: DayDraft | undefined;
    /** Null makes it as its weekday again. */
    onset: (patch: Partial<DayDraft> | null) => void;
  }

  let { date, day, onset }: Props = $props();
  let hoursError = $state('');

  function typedHours(text: string) {
    const { intervals, error } = typedIntervals(text);
    hoursError = error ?? '';
    if (!error) onset({ intervals });
  }
</script>

<div class="sheet day">
  <h2>{date}</h2>
  <label
    >Name
    <input
      class="value"
      value={day?.name ?? ''}
      placeholder="a holiday, an outing"
      onchange={(event) => onset({ name: event.currentTarget.value.trim() || null })}
    /></label
  >
  <label
    >Hours on that day
    <input
      class="value"
      value={day?.intervals.join(', ') ?? ''}
      placeholder={day ? 'closed' : 'as its weekday'}
      aria-invalid={hoursError !== ''}
      onchange={(event) => typedHours(event.currentTarget.value)}
    /></label
  >
  {#if hoursError}<p class="fault">{hoursError}</p>{/if}
  <p class="flex flex-wrap gap-2">
    <button class="button" onclick={() => onset({ intervals: [] })}>Close it</button>
    <button class="button" onclick={() => onset(null)} disabled={!day}>Use weekday hours</button>
  </p>
</div>

<style>
  .day {
    padding: 12px 14px;
    margin-bottom: 16px;
    display: grid;
    gap: 8px;
  }
  .day label {
    display: grid;
    gap: 3px;
    font-size: 12.5px;
    color: var(--ink-2);
  }
</style>
