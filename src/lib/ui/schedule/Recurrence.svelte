<script lang="ts">
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';

  /** How often something comes: as the few choices that most recurrences are, else as it is written (RFC 5545). */
  let { rrule, onchange }: { rrule: string; onchange: (rrule: string) => void } = $props();

  const DAYS = [
    ['MO', 'Mon'],
    ['TU', 'Tue'],
    ['WE', 'Wed'],
    ['TH', 'Thu'],
    ['FR', 'Fri'],
    ['SA', 'Sat'],
    ['SU', 'Sun']
  ] as const;
  /** The recurrence as the few choices that most schedules are; null where it is richer. */
  const simple = $derived.by(() => {
    const parts = Object.fromEntries(rrule.split(';').map((part) => part.split('=') as [string, string]));
    const known = Object.keys(parts).every((name) =>
      ['FREQ', 'INTERVAL', 'BYDAY', 'BYMONTHDAY', 'SKIP', 'RSCALE'].includes(name)
    );
    const days = (parts.BYDAY ?? '').split(',').filter(Boolean);
    if (
      !known ||
      !['DAILY', 'WEEKLY', 'MONTHLY'].includes(parts.FREQ ?? '') ||
      days.some((day) => day.length > 2)
    )
      return null;
    return {
      freq: parts.FREQ!,
      every: Number(parts.INTERVAL ?? 1),
      days,
      monthDay: Number(parts.BYMONTHDAY ?? 0)
    };
  });

  function setSimple(patch: Partial<NonNullable<typeof simple>>) {
    if (!simple) return;
    const next = { ...simple, ...patch };
    const parts = [`FREQ=${next.freq}`];
    if (next.every > 1) parts.push(`INTERVAL=${next.every}`);
    if (next.freq === 'WEEKLY' && next.days.length > 0) parts.push(`BYDAY=${next.days.join(',')}`);
    if (next.freq === 'MONTHLY' && next.monthDay > 0)
      parts.push(
        next.monthDay > 28
          ? `RSCALE=GREGORIAN;SKIP=BACKWARD;BYMONTHDAY=${next.monthDay}`
          : `BYMONTHDAY=${next.monthDay}`
      );
    onchange(parts.join(';'));
  }
</script>

{#if simple}
  <span class="quiet">every</span>
  <NumberValue
    label="Every how many"
    min={1}
    value={simple.every}
    onchange={(every) => every !== null && setSimple({ every })}
  />
  <Pick
    label="Period of the schedule"
    options={wordOptions(
      simple.every === 1
        ? { DAILY: 'day', WEEKLY: 'week', MONTHLY: 'month' }
        : { DAILY: 'days', WEEKLY: 'weeks', MONTHLY: 'months' }
    )}
    value={simple.freq}
    onchange={(freq) => setSimple({ freq })}
  />
  {#if simple.freq === 'WEEKLY'}
    <span class="quiet">on</span>
    <PickMany
      label="Weekdays of the schedule"
      between="and"
      options={DAYS.map(([value, name]) => ({ value: value as string, label: name }))}
      chosen={simple.days}
      onchange={(days) => setSimple({ days })}
    />
  {:else if simple.freq === 'MONTHLY'}
    <span class="quiet">on day</span>
    <NumberValue
      label="Day of the month"
      min={1}
      max={31}
      value={simple.monthDay || 1}
      onchange={(monthDay) => monthDay !== null && setSimple({ monthDay })}
    />
  {/if}
{:else}
  <span class="quiet">Recurrence rule</span>
  <input
    class="value grow"
    aria-label="Recurrence rule (RFC 5545)"
    value={rrule}
    onchange={(event) => onchange(event.currentTarget.value.trim())}
  />
{/if}

<style>
  .grow {
    flex: 1 1 160px;
  }
</style>
