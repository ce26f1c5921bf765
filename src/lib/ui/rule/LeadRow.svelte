<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { CLOSED_DAY_RULES, defaultClosedDay, isDayLevel, type Unit } from '$lib/core/ring/lead.ts';
  import TimeInput from '$lib/ui/form/TimeInput.svelte';
  import type { Lead } from '$lib/core/rule/model.ts';

  interface Props {
    lead: Lead;
    label: string;
    noticeTime: string;
    onchange: (lead: Lead) => void;
    onremove: () => void;
  }

  let { lead, label, noticeTime, onchange, onremove }: Props = $props();

  const UNITS: [Unit, string, string][] = [
    ['workday', 'working day', 'working days'],
    ['day', 'day', 'days'],
    ['week', 'week', 'weeks'],
    ['month', 'month', 'months'],
    ['hour', 'hour', 'hours'],
    ['minute', 'minute', 'minutes'],
    ['workhour', 'working hour', 'working hours'],
    ['workminute', 'working minute', 'working minutes']
  ];
  const CLOSED: Record<(typeof CLOSED_DAY_RULES)[number], string> = {
    earlier: 'ring earlier',
    later: 'ring later',
    onward: 'ring onward',
    nearest: 'ring on the nearest day',
    'later-in-month': 'ring later, within the month',
    'earlier-in-month': 'ring earlier, within the month',
    'as-is': 'ring all the same',
    skip: 'do not ring'
  };

  const side = $derived(lead.n === 0 ? 'on' : lead.n < 0 ? 'before' : 'after');
  const dayLevel = $derived(isDayLevel(lead.unit));

  /** A closed-day rule that was the default stays the default when the offset changes. */
  function offset(n: number, unit: Unit) {
    const wasDefault = lead.closedDay === defaultClosedDay(lead.n, lead.unit);
    const closedDay = wasDefault || !isDayLevel(unit) ? defaultClosedDay(n, unit) : lead.closedDay;
    const time = !isDayLevel(unit) ? null : isDayLevel(lead.unit) ? lead.time : noticeTime;
    onchange({ ...lead, n, unit, closedDay, time });
  }

  function count(text: string) {
    const amount = Math.abs(Math.trunc(Number(text)));
    if (Number.isFinite(amount)) offset(lead.n > 0 ? amount : -amount || 0, lead.unit);
  }

  function turn(to: string) {
    const amount = Math.abs(lead.n) || 1;
    offset(to === 'on' ? 0 : to === 'before' ? -amount : amount, lead.unit);
  }
</script>

<fieldset>
  <legend class="sr">{label}</legend>
  {#if side !== 'on'}
    <input
      class="value count"
      type="number"
      min="1"
      step="1"
      value={Math.abs(lead.n)}
      aria-label="How many"
      onchange={(event) => count(event.currentTarget.value)}
    />
    <select
      class="value unit"
      aria-label="Unit"
      value={lead.unit}
      onchange={(event) => offset(lead.n, event.currentTarget.value as Unit)}
    >
      {#each UNITS as [unit, one, many] (unit)}<option value={unit}
          >{Math.abs(lead.n) === 1 ? one : many}</option
        >{/each}
    </select>
  {/if}
  <select
    class="value side"
    aria-label="Before or after"
    value={side}
    onchange={(event) => turn(event.currentTarget.value)}
  >
    <option>before</option><option value="on">{dayLevel ? 'on' : 'at'}</option><option>after</option>
  </select>
  <select
    class="value anchor"
    aria-label="Date"
    value={lead.anchor}
    onchange={(event) => onchange({ ...lead, anchor: event.currentTarget.value as Lead['anchor'] })}
  >
    <option value="due">{dayLevel ? 'due date' : 'due moment'}</option><option value="start"
      >{dayLevel ? 'start date' : 'start'}</option
    ><option value="remind on">reminder date</option>
  </select>
  <button type="button" class="button plain" aria-label="Take this ring time out" onclick={onremove}
    ><X size={15} /></button
  >
  {#if dayLevel}
    <span class="row">
      <span class="quiet">at</span>
      <TimeInput
        class="value time"
        value={lead.time}
        label="Time of day"
        onchange={(time) => onchange({ ...lead, time })}
      />
      <span class="quiet">on a closed day</span>
      <select
        class="value"
        aria-label="On a closed day"
        value={lead.closedDay}
        onchange={(event) => onchange({ ...lead, closedDay: event.currentTarget.value as Lead['closedDay'] })}
      >
        {#each CLOSED_DAY_RULES as rule (rule)}<option value={rule}>{CLOSED[rule]}</option>{/each}
      </select>
    </span>
  {/if}
</fieldset>

<style>
  fieldset {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    align-items: center;
  }
  .count {
    width: 52px;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    align-items: center;
    flex-basis: 100%;
  }
  fieldset :global(.time) {
    width: 62px;
  }
  .unit {
    width: 114px;
  }
  .side {
    width: 80px;
  }
  .anchor {
    width: 116px;
  }
  fieldset :global(select) {
    padding-inline: 6px 2px;
  }
</style>
