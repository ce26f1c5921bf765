<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import TimeInput from '$lib/ui/form/TimeInput.svelte';
  import { EVENT_WORDS, RULE_EVENTS, type RuleEventName } from '$lib/core/rule/events.ts';
  import { PHASES, type EventLead, type HandLead, type ScheduleLead } from '$lib/core/rule/model.ts';
  import Choices from './Choices.svelte';
  import type { RuleChoices } from './choices.ts';

  /** A ring time that is not counted from a date: on a schedule, when something happens, or by hand. */
  interface Props {
    lead: ScheduleLead | EventLead | HandLead;
    label: string;
    choices: RuleChoices;
    onchange: (lead: ScheduleLead | EventLead | HandLead) => void;
    onremove: () => void;
  }

  let { lead, label, choices, onchange, onremove }: Props = $props();

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
    if (lead.kind !== 'schedule') return null;
    const parts = Object.fromEntries(
      lead.rrule.split(';').map((part) => part.split('=') as [string, string])
    );
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
    if (lead.kind !== 'schedule' || !simple) return;
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
    onchange({ ...lead, rrule: parts.join(';') });
  }
</script>

<fieldset>
  <legend class="sr">{label}</legend>
  {#if lead.kind === 'schedule'}
    {#if simple}
      <span class="quiet">on a schedule: every</span>
      <input
        class="value count"
        type="number"
        min="1"
        aria-label="Every how many"
        value={simple.every}
        onchange={(event) => setSimple({ every: Math.max(1, Number(event.currentTarget.value) || 1) })}
      />
      <select
        class="value"
        aria-label="Period of the schedule"
        value={simple.freq}
        onchange={(event) => setSimple({ freq: event.currentTarget.value })}
      >
        <option value="DAILY">{simple.every === 1 ? 'day' : 'days'}</option>
        <option value="WEEKLY">{simple.every === 1 ? 'week' : 'weeks'}</option>
        <option value="MONTHLY">{simple.every === 1 ? 'month' : 'months'}</option>
      </select>
      {#if simple.freq === 'WEEKLY'}
        <Choices
          legend="Weekdays of the schedule"
          options={DAYS.map(([value, name]) => ({ value: value as string, label: name }))}
          chosen={simple.days}
          onchange={(days) => setSimple({ days })}
        />
      {:else if simple.freq === 'MONTHLY'}
        <span class="quiet">on day</span>
        <input
          class="value count"
          type="number"
          min="1"
          max="31"
          aria-label="Day of the month"
          value={simple.monthDay || 1}
          onchange={(event) =>
            setSimple({ monthDay: Math.min(31, Math.max(1, Number(event.currentTarget.value) || 1)) })}
        />
      {/if}
    {:else}
      <span class="quiet">on a schedule:</span>
      <input
        class="value grow"
        aria-label="Recurrence rule (RFC 5545)"
        value={lead.rrule}
        onchange={(event) => onchange({ ...lead, rrule: event.currentTarget.value.trim() })}
      />
    {/if}
    <span class="row">
      <span class="quiet">at</span>
      <TimeInput
        class="value time"
        value={lead.time}
        label="Time of the schedule"
        onchange={(time) => time !== null && onchange({ ...lead, time })}
      />
      <span class="quiet">from</span>
      <input
        class="value"
        type="date"
        aria-label="First day of the schedule"
        value={lead.start}
        onchange={(event) => onchange({ ...lead, start: event.currentTarget.value })}
      />
      <select
        class="value"
        aria-label="When the day of the schedule is closed"
        value={lead.closedDay}
        onchange={(event) =>
          onchange({ ...lead, closedDay: event.currentTarget.value as ScheduleLead['closedDay'] })}
      >
        <option value="skip">not on a closed day</option>
        <option value="earlier">earlier on a closed day</option>
        <option value="later">later on a closed day</option>
        <option value="as-is">closed days too</option>
      </select>
      <label
        ><input
          type="checkbox"
          checked={lead.oncePerDate}
          onchange={(event) => onchange({ ...lead, oncePerDate: event.currentTarget.checked })}
        /> once per task and date</label
      >
    </span>
  {:else if lead.kind === 'event'}
    <span class="quiet">as soon as</span>
    <select
      class="value"
      aria-label="What happens"
      value={lead.event}
      onchange={(event) => {
        const { from: _from, to: _to, field: _field, ...rest } = lead as EventLead;
        onchange({ ...rest, event: event.currentTarget.value as RuleEventName });
      }}
    >
      {#each RULE_EVENTS as name (name)}<option value={name}>{EVENT_WORDS[name]}</option>{/each}
    </select>
    {#if lead.event === 'status changed' || lead.event === 'phase changed'}
      <span class="quiet">to</span>
      <select
        class="value"
        aria-label="To which"
        value={lead.to?.[0] ?? ''}
        onchange={(event) => {
          const { to: _to, ...rest } = lead as EventLead;
          const chosen = event.currentTarget.value;
          const to = lead.kind === 'event' && lead.event === 'status changed' ? Number(chosen) : chosen;
          onchange(chosen === '' ? rest : { ...rest, to: [to] });
        }}
      >
        <option value="">any</option>
        {#if lead.event === 'status changed'}
          {#each choices.statuses as { id, name } (id)}<option value={id}>{name}</option>{/each}
        {:else}
          {#each PHASES as phase (phase)}<option>{phase}</option>{/each}
        {/if}
      </select>
    {:else if lead.event === 'field changed'}
      <select
        class="value"
        aria-label="Which field changes"
        value={String(lead.field ?? '')}
        onchange={(event) => {
          const { field: _field, ...rest } = lead as EventLead;
          const chosen = event.currentTarget.value;
          onchange(
            chosen === '' ? rest : { ...rest, field: Number.isNaN(Number(chosen)) ? chosen : Number(chosen) }
          );
        }}
      >
        <option value="">any</option>
        {#each ['name', 'description', 'priority', 'percent', 'owner', 'project', 'section', 'due', 'start', 'tags'] as name (name)}<option
            >{name}</option
          >{/each}
        {#each choices.fields as { id, name } (id)}<option value={id}>{name}</option>{/each}
      </select>
    {/if}
    <label
      ><input
        type="checkbox"
        checked={lead.wide}
        onchange={(event) => onchange({ ...lead, wide: event.currentTarget.checked })}
      />
      imports and changes of more than 25 too</label
    >
  {:else}
    <span class="quiet">by hand, the button says</span>
    <input
      class="value grow"
      aria-label="Caption of the button"
      maxlength="80"
      value={lead.caption}
      onchange={(event) => onchange({ ...lead, caption: event.currentTarget.value.trim() } as HandLead)}
    />
  {/if}
  <button type="button" class="button plain" aria-label="Take this ring time out" onclick={onremove}
    ><X size={15} /></button
  >
</fieldset>

<style>
  fieldset,
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    align-items: center;
  }
  .row {
    flex-basis: 100%;
  }
  .count {
    width: 56px;
  }
  .grow {
    flex: 1 1 160px;
  }
  fieldset :global(.time) {
    width: 62px;
  }
  input[type='checkbox'] {
    accent-color: var(--brass-deep);
  }
</style>
