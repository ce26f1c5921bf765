<script lang="ts">
  import type { LateChoice } from '$lib/core/ring/if-late.ts';
  import { leadInShort } from '$lib/core/rule/read-back.ts';
  import {
    MOST_LEADS,
    offsetLead,
    type Lead,
    type RuleDefinition,
    type ZoneChoice
  } from '$lib/core/rule/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { plainOptions, wordOptions } from '$lib/ui/pick/option.ts';
  import LeadMore from './LeadMore.svelte';
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

  const KINDS: Record<Lead['kind'], string> = {
    offset: 'before or after a date',
    schedule: 'on a schedule',
    event: 'as soon as something happens',
    'by hand': 'by hand, at a button'
  };
  const LATE: Record<LateChoice, string> = {
    keep: 'rings all the same, marked as a late bell',
    forward: 'is brought forward to the last minute of reach before',
    'ring-anyway': 'rings at its own time, outside reach too',
    skip: 'does not ring'
  };
  const CLOCKS: Record<ZoneChoice['of'], string> = {
    recipient: 'the recipient’s',
    owner: 'the owner’s',
    project: 'the project’s',
    workspace: 'the workspace’s',
    named: 'a named place’s'
  };
  const ORDINALS = ['first', 'again'];
</script>

<Part title="Ring" {faults} count="{bells} bells in four weeks">
  {#each leads as lead, i (lead.id)}
    <Line
      label={ORDINALS[i] ?? 'again'}
      group="Ring time {i + 1}"
      out={{ label: 'Take this ring time out', onclick: () => replace(lead.id, null) }}
    >
      {#if lead.kind === 'offset'}
        <LeadRow
          {lead}
          {choices}
          others={leads
            .filter(({ id }) => id !== lead.id)
            .map((one) => ({ id: one.id, label: leadInShort(one) }))}
          onchange={(changed) => replace(lead.id, changed)}
        />
      {:else}
        <OtherLeadRow {lead} {choices} onchange={(changed) => replace(lead.id, changed)} />
      {/if}
      <LeadMore {lead} {choices} onchange={(changed) => replace(lead.id, changed)} />
    </Line>
  {/each}
  {#if leads.length < MOST_LEADS}
    <Line label={leads.length === 0 ? 'when' : ''}>
      <AddMenu
        caption={leads.length === 0 ? 'a time' : 'another time'}
        label="a ring time"
        options={wordOptions(KINDS)}
        onadd={add}
      />
    </Line>
  {/if}
  {#if leads.length > 0}
    <Line label="clock">
      <Pick
        label="On whose clock"
        options={wordOptions(CLOCKS)}
        value={zone.of}
        onchange={(of) => setZone(of === 'named' ? { of, zone: choices.zones[0] ?? 'UTC' } : { of })}
      />
      {#if zone.of === 'named'}
        <Pick
          label="Time zone"
          options={plainOptions(choices.zones)}
          value={zone.zone}
          onchange={(name) => setZone({ of: 'named', zone: name })}
        />
      {/if}
      <span class="quiet">working days by the owner’s calendar</span>
    </Line>
    <Line label="if late">
      <Pick
        label="What would come too late for the date"
        still
        options={wordOptions(LATE)}
        value={definition.ifLate}
        onchange={(late) => (definition.ifLate = late)}
      />
    </Line>
  {/if}
</Part>
