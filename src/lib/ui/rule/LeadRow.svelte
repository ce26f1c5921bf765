<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { CLOSED_DAY_RULES, defaultClosedDay, isDayLevel, type Unit } from '$lib/core/ring/lead.ts';
  import TimeInput from '$lib/ui/form/TimeInput.svelte';
  import { happensFirst } from '$lib/core/forecast/compile-lead.ts';
  import type { LeadAnchor, OffsetLead } from '$lib/core/rule/model.ts';
  import type { RuleChoices } from './choices.ts';

  interface Props {
    lead: OffsetLead;
    label: string;
    choices: RuleChoices;
    /** The other ring times, by what they are called. */
    others: readonly { id: string; label: string }[];
    onchange: (lead: OffsetLead) => void;
    onremove: () => void;
  }

  let { lead, label, choices, others, onchange, onremove }: Props = $props();

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

  const ANCHORS: [LeadAnchor, string, string][] = [
    ['due', 'due date', 'due moment'],
    ['start', 'start date', 'start'],
    ['remind on', 'reminder date', 'reminder date'],
    ['finished', 'day it was finished', 'finish'],
    ['created', 'day it was created', 'creation'],
    ['assigned', 'day it was assigned', 'assignment'],
    ['last touched', 'day it was last touched', 'last touch'],
    ['phase entered', 'day it came into its phase', 'coming into its phase'],
    ['closed', 'day it was closed', 'closing'],
    ['review date', 'review date', 'review date'],
    ['own date', 'date of a field', 'date of a field'],
    ['earlier ring', 'earlier ring', 'earlier ring']
  ];
  const dated = $derived(choices.fields.filter(({ kind }) => kind.startsWith('date')));
  const often = $derived(
    !lead.repeat ? '' : UNITS.find(([unit]) => unit === lead.repeat!.unit)?.[lead.repeat.n === 1 ? 1 : 2]
  );

  /** Nothing is counted back from what is only known once it has happened. */
  function setAnchor(anchor: LeadAnchor) {
    const { field: _field, after: _after, ...rest } = lead;
    const n = happensFirst(anchor) ? Math.abs(lead.n) || 1 : lead.n;
    const closedDay = n === lead.n ? lead.closedDay : defaultClosedDay(n, lead.unit);
    const first = dated[0];
    onchange({
      ...rest,
      anchor,
      n,
      closedDay,
      ...(anchor === 'own date' && first ? { field: { id: first.id, end: 'from' as const } } : {}),
      ...(anchor === 'earlier ring' && others[0] ? { after: others[0].id } : {})
    });
  }

  const side = $derived(lead.n === 0 ? 'on' : lead.n < 0 ? 'before' : 'after');
  const dayLevel = $derived(isDayLevel(lead.unit));

  /** A closed-day rule that was the default stays the default when the offset changes. */
  function offset(n: number, unit: Unit) {
    const wasDefault = lead.closedDay === defaultClosedDay(lead.n, lead.unit);
    const closedDay = wasDefault || !isDayLevel(unit) ? defaultClosedDay(n, unit) : lead.closedDay;
    const time = !isDayLevel(unit) ? null : isDayLevel(lead.unit) ? lead.time : choices.noticeTime;
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
    onchange={(event) => setAnchor(event.currentTarget.value as LeadAnchor)}
  >
    {#each ANCHORS as [anchor, day, moment] (anchor)}<option value={anchor}>{dayLevel ? day : moment}</option
      >{/each}
  </select>
  {#if lead.anchor === 'own date'}
    <select
      class="value"
      aria-label="Which field"
      value={lead.field?.id ?? ''}
      onchange={(event) =>
        onchange({
          ...lead,
          field: { id: Number(event.currentTarget.value), end: lead.field?.end ?? 'from' }
        })}
    >
      {#each dated as { id, name } (id)}<option value={id}>{name}</option>{/each}
    </select>
    {#if dated.find(({ id }) => id === lead.field?.id)?.kind === 'date range'}
      <select
        class="value"
        aria-label="Which end"
        value={lead.field?.end}
        onchange={(event) =>
          onchange({
            ...lead,
            field: { id: lead.field!.id, end: event.currentTarget.value as 'from' | 'until' }
          })}
      >
        <option value="from">its beginning</option><option value="until">its end</option>
      </select>
    {/if}
  {:else if lead.anchor === 'earlier ring'}
    <select
      class="value"
      aria-label="Which ring"
      value={lead.after ?? ''}
      onchange={(event) => onchange({ ...lead, after: event.currentTarget.value })}
    >
      {#each others as { id, label: name } (id)}<option value={id}>{name}</option>{/each}
    </select>
  {/if}
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
        onchange={(event) =>
          onchange({ ...lead, closedDay: event.currentTarget.value as OffsetLead['closedDay'] })}
      >
        {#each CLOSED_DAY_RULES as rule (rule)}<option value={rule}>{CLOSED[rule]}</option>{/each}
      </select>
    </span>
  {/if}
  <span class="row">
    {#if lead.repeat}
      <span class="quiet">again after every</span>
      <input
        class="value count"
        type="number"
        min="1"
        value={lead.repeat.n}
        aria-label="Repeated after how many"
        onchange={(event) =>
          onchange({
            ...lead,
            repeat: { ...lead.repeat!, n: Math.max(1, Number(event.currentTarget.value) || 1) }
          })}
      />
      <select
        class="value unit"
        aria-label="Repeated in which unit"
        title={often}
        value={lead.repeat.unit}
        onchange={(event) =>
          onchange({ ...lead, repeat: { ...lead.repeat!, unit: event.currentTarget.value as Unit } })}
      >
        {#each UNITS as [unit, one, many] (unit)}<option value={unit}
            >{lead.repeat.n === 1 ? one : many}</option
          >{/each}
      </select>
      <span class="quiet">until</span>
      <input
        class="value count"
        type="number"
        min="1"
        value={lead.repeat.most}
        aria-label="At most how many leave"
        onchange={(event) =>
          onchange({
            ...lead,
            repeat: { ...lead.repeat!, most: Math.max(1, Number(event.currentTarget.value) || 1) }
          })}
      />
      <span class="quiet">have left</span>
      <button type="button" class="button plain" onclick={() => onchange({ ...lead, repeat: null })}
        >once only</button
      >
    {:else}
      <button
        type="button"
        class="button plain"
        onclick={() => onchange({ ...lead, repeat: { n: 1, unit: 'workday', most: 5 } })}>repeat it</button
      >
    {/if}
  </span>
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
