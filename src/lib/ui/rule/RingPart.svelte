<script lang="ts">
  import { agree, many } from '$lib/core/many.ts';
  import { LADDER_AWAY_CHOICES, LATE_CHOICES, ladderAwayOf } from '$lib/core/rule/words/choice-words.ts';
  import { leadInShort } from '$lib/core/rule/words/lead-words.ts';
  import { isDayLevel } from '$lib/core/ring/lead.ts';
  import { heardAlone, withoutLead } from '$lib/core/rule/without-lead.ts';
  import { MOST_LEADS, type RuleDefinition } from '$lib/core/rule/model.ts';
  import { isRung, offsetLead, type Lead, type ZoneChoice } from '$lib/core/rule/lead-model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import ClockPick from './ClockPick.svelte';
  import LeadMore from './LeadMore.svelte';
  import LeadRow from './LeadRow.svelte';
  import Line from './Line.svelte';
  import OtherLeadRow from './OtherLeadRow.svelte';
  import { ask } from '../dialog/ask.svelte.ts';
  import Part from './Part.svelte';
  import RungRow from './RungRow.svelte';
  import { newPartId, type RuleChoices } from './choices.ts';

  /** When a rule fires. */
  interface Props {
    definition: RuleDefinition;
    choices: RuleChoices;
    /** In the next four weeks; null while that is not known. */
    bells: number | null;
    faults: readonly string[];
  }

  let { definition = $bindable(), choices, bells, faults }: Props = $props();
  const leads = $derived(definition.leads);
  const zone = $derived<ZoneChoice>(leads[0]?.zone ?? { of: 'recipient' });

  const rungs = $derived(leads.filter(isRung));

  /** The next rung: as soon as it is late, and a working day of eight hours on from the one before. */
  function nextRung(id: string): Lead {
    const last = rungs.at(-1);
    if (last?.repeat) replace(last.id, { ...last, repeat: null });
    const unit = last?.unit ?? 'workhour';
    const step = unit === 'workhour' ? 8 : unit === 'workminute' ? 480 : 1;
    return offsetLead(id, last ? last.n + step : 0, unit, {
      ...{ anchor: 'ladder', zone },
      ...(isDayLevel(unit) ? { time: last?.time ?? choices.noticeTime } : {})
    });
  }

  const replace = (id: string, lead: Lead) =>
    (definition.leads = leads.map((one) => (one.id === id ? lead : one)));

  /** Whoever hears at it alone goes with it, and not over to the other ring times. */
  async function takeOut(id: string) {
    const alone = heardAlone(definition, id);
    const who = many(alone, 'recipient is told', 'recipients are told');
    const them = agree(alone, 'that recipient', 'them');
    const question = {
      title: `${who} only at this ring time. Remove ${them} too?`,
      yes: 'Remove',
      no: 'Keep'
    };
    if (alone === 0 || (await ask(question))) definition = withoutLead(definition, id);
  }

  function add(kind: keyof typeof KINDS) {
    const base = { id: newPartId(), on: true, only: null, zone };
    const made: Record<keyof typeof KINDS, () => Lead> = {
      rung: () => nextRung(base.id),
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
    const lead = made[kind]();
    definition.leads = [...definition.leads, lead];
  }

  const KINDS = {
    offset: 'before or after a date',
    rung: 'when a task is overdue (ladder level)',
    schedule: 'on a schedule',
    event: 'when something happens',
    'by hand': 'by hand, with a button'
  } as const;
</script>

<Part title="Ring" {faults} count={bells === null ? '' : `${many(bells, 'bell')} in four weeks`}>
  {#each leads as lead, i (lead.id)}
    <Line
      label={isRung(lead) ? `level ${rungs.indexOf(lead) + 1}` : `ring ${i + 1}`}
      group="Ring time {i + 1}"
      out={{ label: 'Remove this ring time', onclick: () => takeOut(lead.id) }}
    >
      {#if isRung(lead)}
        <RungRow
          {lead}
          {choices}
          isLast={lead === rungs.at(-1)}
          onchange={(changed) => replace(lead.id, changed)}
        />
      {:else if lead.kind === 'offset'}
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
      <ClockPick {lead} {choices} onchange={(changed) => replace(lead.id, changed)} />
      <LeadMore {lead} {choices} onchange={(changed) => replace(lead.id, changed)} />
    </Line>
  {/each}
  {#if leads.length < MOST_LEADS}
    <Line label={leads.length === 0 ? 'when' : ''}>
      <AddMenu caption="Add a ring time" label="a ring time" options={wordOptions(KINDS)} onadd={add} />
    </Line>
  {/if}
  {#if leads.length > 0}
    {#if leads.some((lead) => lead.kind === 'offset' && (isDayLevel(lead.unit) || lead.unit.startsWith('work')))}
      <Line label="calendar"><span class="quiet">working days: owner’s calendar</span></Line>
    {/if}
    {#if leads.some((lead) => lead.kind === 'offset' && !isRung(lead) && lead.time !== null)}
      <Line label="due times">
        <span class="quiet">a date with a time counts as the date it has in the ring’s time zone</span>
      </Line>
    {/if}
    {#if rungs.length > 0}
      <Line label="on leave">
        <Pick
          label="While the owner is on leave"
          still
          options={wordOptions(LADDER_AWAY_CHOICES)}
          value={ladderAwayOf(definition)}
          onchange={(away) => (definition.awayStops = away === 'stops')}
        />
      </Line>
    {/if}
    <Line label="if too late">
      <Pick
        label="If it would be too late for the date"
        still
        options={wordOptions(LATE_CHOICES)}
        value={definition.ifLate}
        onchange={(late) => (definition.ifLate = late)}
      />
      {#if definition.leads.some((lead) => lead.kind === 'offset' && lead.repeat !== null)}
        <span class="quiet">only the first ring of repeats</span>
      {/if}
    </Line>
  {/if}
</Part>
