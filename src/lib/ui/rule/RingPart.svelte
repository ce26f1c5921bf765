<script lang="ts">
  import Plus from '@lucide/svelte/icons/plus';
  import type { LateChoice } from '$lib/core/ring/if-late.ts';
  import { leadWords } from '$lib/core/rule/read-back.ts';
  import {
    MOST_LEADS,
    offsetLead,
    type Lead,
    type RuleDefinition,
    type ZoneChoice
  } from '$lib/core/rule/model.ts';
  import LeadFilterLine from './LeadFilterLine.svelte';
  import LeadRow from './LeadRow.svelte';
  import Line from './Line.svelte';
  import OtherLeadRow from './OtherLeadRow.svelte';
  import Part from './Part.svelte';
  import { newPartId, type RuleChoices } from './choices.ts';

  /** When a rule fires. */
  interface Props {
    definition: RuleDefinition;
    choices: RuleChoices;
    bells: number;
    faults: readonly string[];
  }

  let { definition = $bindable(), choices, bells, faults }: Props = $props();
  const leads = $derived(definition.leads);
  const zone = $derived<ZoneChoice>(leads[0]?.zone ?? { of: 'recipient' });

  const replace = (id: string, lead: Lead | null) =>
    (definition.leads = leads.flatMap((one) => (one.id === id ? (lead ? [lead] : []) : [one])));

  function add(kind: Lead['kind']) {
    const base = { id: newPartId(), on: true, only: null, zone };
    const made: Record<Lead['kind'], () => Lead> = {
      offset: () => offsetLead(base.id, -2, 'workday', { time: choices.noticeTime, zone }),
      schedule: () => ({
        ...base,
        ...{
          kind: 'schedule',
          rrule: 'FREQ=WEEKLY;BYDAY=MO',
          start: choices.today,
          time: choices.noticeTime
        },
        ...{ zone: { of: 'workspace' }, closedDay: 'skip', oncePerDate: false }
      }),
      event: () => ({ ...base, kind: 'event', event: 'finished', wide: false }),
      'by hand': () => ({ ...base, kind: 'by hand', caption: '' })
    };
    definition.leads = [...leads, made[kind]()];
  }
  const setZone = (next: ZoneChoice) => (definition.leads = leads.map((lead) => ({ ...lead, zone: next })));
</script>

<Part title="Ring" {faults} count="{bells} bells in four weeks">
  {#each leads as lead, i (lead.id)}
    <Line label={i === 0 ? 'first' : 'again'}>
      {#if lead.kind === 'offset'}
        <LeadRow
          {lead}
          label="Ring time {i + 1}"
          {choices}
          others={leads
            .filter(({ id }) => id !== lead.id)
            .map((one) => ({ id: one.id, label: leadWords(one) }))}
          onchange={(changed) => replace(lead.id, changed)}
          onremove={() => replace(lead.id, null)}
        />
      {:else}
        <OtherLeadRow
          {lead}
          label="Ring time {i + 1}"
          {choices}
          onchange={(changed) => replace(lead.id, changed)}
          onremove={() => replace(lead.id, null)}
        />
      {/if}
      <LeadFilterLine {lead} {choices} onchange={(changed) => replace(lead.id, changed)} />
    </Line>
  {/each}
  <p class="add">
    <button type="button" class="button" onclick={() => add('offset')} disabled={leads.length >= MOST_LEADS}>
      <Plus size={15} strokeWidth={1.75} />{leads.length === 0 ? 'Add a ring time' : 'Another ring time'}
    </button>
    <select
      class="value"
      aria-label="Add another kind of ring"
      value=""
      disabled={leads.length >= MOST_LEADS}
      onchange={(event) => {
        if (event.currentTarget.value) add(event.currentTarget.value as Lead['kind']);
        event.currentTarget.value = '';
      }}
    >
      <option value="">another kind…</option>
      <option value="schedule">on a schedule</option>
      <option value="event">as soon as something happens</option>
      <option value="by hand">by hand</option>
    </select>
  </p>
  {#if leads.length > 0}
    <Line label="clock">
      <select
        class="value"
        aria-label="On whose clock"
        value={zone.of}
        onchange={(event) => {
          const of = event.currentTarget.value as ZoneChoice['of'];
          setZone(of === 'named' ? { of, zone: 'UTC' } : { of });
        }}
      >
        <option value="recipient">the recipient’s</option>
        <option value="owner">the owner’s</option>
        <option value="project">the project’s</option>
        <option value="workspace">the workspace’s</option>
        <option value="named">a named place’s</option>
      </select>
      {#if zone.of === 'named'}
        <input
          class="value"
          list="zones"
          aria-label="Time zone"
          value={zone.zone}
          onchange={(event) => setZone({ of: 'named', zone: event.currentTarget.value.trim() })}
        />
        <datalist id="zones"
          >{#each choices.zones as name (name)}<option value={name}></option>{/each}</datalist
        >
      {/if}
      <span class="quiet">working days by the owner’s calendar</span>
    </Line>
    <Line label="if late">
      <select
        class="value"
        aria-label="What would come too late for the date"
        value={definition.ifLate}
        onchange={(event) => (definition.ifLate = event.currentTarget.value as LateChoice)}
      >
        <option value="keep">rings all the same, marked as a late bell</option>
        <option value="forward">is brought forward to the last minute of reach before</option>
        <option value="ring-anyway">rings at its own time, outside reach too</option>
        <option value="skip">does not ring</option>
      </select>
      <span class="quiet">where leave, hold or a day’s most would carry it past the date</span>
    </Line>
  {/if}
</Part>

<style>
  .add {
    display: flex;
    gap: 8px;
    align-items: center;
  }
</style>
