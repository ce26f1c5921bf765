<script lang="ts">
  import Labelled from './Labelled.svelte';
  import LeadTime from './LeadTime.svelte';
  import { EVENT_WORDS, RULE_EVENTS, type RuleEventName } from '$lib/core/rule/events.ts';
  import {
    HAND_PLACES,
    type EventLead,
    type HandLead,
    type ScheduleLead
  } from '$lib/core/rule/lead-model.ts';
  import { HAND_PLACE_CHOICES, WIDE_CHOICES, wideOf } from '$lib/core/rule/words/choice-words.ts';
  import { PHASES } from '$lib/core/task/model.ts';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { CLOSED_SCHEDULE_OPTIONS } from '$lib/ui/schedule/closed-options.ts';
  import Recurrence from '$lib/ui/schedule/Recurrence.svelte';
  import { namedOptions, plainOptions, wordOptions, type Option } from '$lib/ui/pick/option.ts';
  import OncePick from './OncePick.svelte';
  import type { RuleChoices } from './choices.ts';
  import DateField from '../form/date/DateField.svelte';

  /** A ring time that is not counted from a date: on a schedule, when something happens, or by hand. */
  interface Props {
    lead: ScheduleLead | EventLead | HandLead;
    choices: RuleChoices;
    onchange: (lead: ScheduleLead | EventLead | HandLead) => void;
  }

  let { lead, choices, onchange }: Props = $props();

  /** What a change can be of, so that a ring time waits for it alone. */
  const CHANGED = [
    'name',
    'description',
    'priority',
    'percent',
    'owner',
    'project',
    'section',
    'due',
    'start',
    'tags'
  ];
  const ANY: Option<string> = { value: '', label: 'any' };
  const turnedTo = $derived<Option<string>[]>([
    ANY,
    ...(lead.kind === 'event' && lead.event === 'status changed'
      ? choices.statuses.map(({ id, name }) => ({ value: String(id), label: name }))
      : plainOptions(PHASES))
  ]);

  function setEvent(event: RuleEventName) {
    const { from: _from, to: _to, field: _field, ...rest } = lead as EventLead;
    onchange({ ...rest, event });
  }
  function setTo(chosen: string) {
    const { to: _to, ...rest } = lead as EventLead;
    const to = rest.event === 'status changed' ? Number(chosen) : chosen;
    onchange(chosen === '' ? rest : { ...rest, to: [to] });
  }
  function setField(chosen: string) {
    const { field: _field, ...rest } = lead as EventLead;
    onchange(
      chosen === '' ? rest : { ...rest, field: Number.isNaN(Number(chosen)) ? chosen : Number(chosen) }
    );
  }
</script>

{#if lead.kind === 'schedule'}
  <Labelled label="Schedule"
    ><Recurrence rrule={lead.rrule} onchange={(rrule) => onchange({ ...lead, rrule })} /></Labelled
  >
  <LeadTime
    value={lead.time}
    label="Time of the schedule"
    onchange={(time) => time !== null && onchange({ ...lead, time })}
  />
  <Labelled label="From">
    <DateField
      live
      label="First day of the schedule"
      value={lead.start}
      onchange={(start) => onchange({ ...lead, start: start ?? '' })}
      onfault={(start) => onchange({ ...lead, start })}
    />
  </Labelled>
  <Labelled label="Closed day">
    <Pick
      label="On a closed day"
      still
      options={CLOSED_SCHEDULE_OPTIONS}
      value={lead.closedDay as 'skip'}
      onchange={(closedDay) => onchange({ ...lead, closedDay })}
    />
  </Labelled>
  <Labelled label="Per task"><OncePick {lead} {choices} {onchange} /></Labelled>
{:else if lead.kind === 'event'}
  <Labelled label="Event">
    <Pick
      label="What happens"
      options={RULE_EVENTS.map((name) => ({ value: name, label: EVENT_WORDS[name] }))}
      value={lead.event}
      onchange={setEvent}
    />
    {#if lead.event === 'status changed' || lead.event === 'phase changed'}
      <span class="quiet">to</span>
      <Pick label="To which" options={turnedTo} value={String(lead.to?.[0] ?? '')} onchange={setTo} />
    {:else if lead.event === 'field changed'}
      <Pick
        label="Which field changes"
        options={[
          ANY,
          ...plainOptions(CHANGED),
          ...namedOptions(choices.fields).map(({ value, label }) => ({ value: String(value), label }))
        ]}
        value={String(lead.field ?? '')}
        onchange={setField}
      />
    {/if}
  </Labelled>
  <Labelled label="Changes">
    <Pick
      label="Which changes count"
      still
      options={wordOptions(WIDE_CHOICES)}
      value={wideOf(lead)}
      onchange={(how) => onchange({ ...lead, wide: how === 'wide' })}
    />
  </Labelled>
{:else}
  <Labelled label="Button text">
    <input
      class="value grow"
      aria-label="Caption of the button"
      maxlength="80"
      value={lead.caption}
      onchange={(event) => onchange({ ...lead, caption: event.currentTarget.value.trim() } as HandLead)}
    />
  </Labelled>
  <Labelled label="Where">
    <PickMany
      label="Where the button is"
      between="and"
      options={HAND_PLACES.map((value) => ({ value, label: HAND_PLACE_CHOICES[value] }))}
      chosen={lead.places ?? ['task']}
      onchange={(places) => onchange({ ...lead, places } as HandLead)}
    />
  </Labelled>
  <Labelled label="Text before it rings">
    <input
      class="value grow"
      aria-label="Text shown before it rings"
      maxlength="300"
      value={lead.confirm ?? ''}
      onchange={(event) => onchange({ ...lead, confirm: event.currentTarget.value.trim() } as HandLead)}
    />
  </Labelled>
{/if}

<style>
  .grow {
    width: 260px;
  }
</style>
