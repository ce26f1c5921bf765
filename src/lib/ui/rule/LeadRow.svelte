<script lang="ts">
  import Labelled from './Labelled.svelte';
  import LeadTime from './LeadTime.svelte';
  import { type LeadAnchor, ANCHORS } from '$lib/core/anchor/anchors.ts';
  import { defaultClosedDay, isDayLevel, type Unit } from '$lib/core/ring/lead.ts';
  import type { OffsetLead } from '$lib/core/rule/lead-model.ts';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { namedOptions } from '$lib/ui/pick/option.ts';
  import RepeatValues from './RepeatValues.svelte';
  import type { RuleChoices } from './choices.ts';
  import { anchorOptions, CLOSED_OPTIONS, unitOptions } from './words.ts';

  /** A ring time that is counted from a date: so many units before or after it, at a time of day. */
  interface Props {
    lead: OffsetLead;
    choices: RuleChoices;
    /** The other ring times, by what they are called. */
    others: readonly { id: string; label: string }[];
    onchange: (lead: OffsetLead) => void;
  }

  let { lead, choices, others, onchange }: Props = $props();
  const dated = $derived(choices.fields.filter(({ kind }) => kind.startsWith('date')));
  const side = $derived(lead.n === 0 ? 'on' : lead.n < 0 ? 'before' : 'after');
  const dayLevel = $derived(isDayLevel(lead.unit));
  const ranged = $derived(dated.find(({ id }) => id === lead.field?.id)?.kind === 'date range');

  /** Nothing is counted back from what is only known once it has happened. */
  function setAnchor(anchor: LeadAnchor) {
    const { field: _field, after: _after, ...rest } = lead;
    const n = ANCHORS[anchor].happened ? Math.abs(lead.n) || 1 : lead.n;
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

  /** A closed-day rule that was the default stays the default when the offset changes. */
  function offset(n: number, unit: Unit) {
    const wasDefault = lead.closedDay === defaultClosedDay(lead.n, lead.unit);
    const closedDay = wasDefault || !isDayLevel(unit) ? defaultClosedDay(n, unit) : lead.closedDay;
    const time = !isDayLevel(unit) ? null : isDayLevel(lead.unit) ? lead.time : choices.noticeTime;
    onchange({ ...lead, n, unit, closedDay, time });
  }

  function turn(to: string) {
    const amount = Math.abs(lead.n) || 1;
    offset(to === 'on' ? 0 : to === 'before' ? -amount : amount, lead.unit);
  }
</script>

{#if side !== 'on'}
  <Labelled label="Offset">
    <NumberValue
      label="How many"
      min={1}
      value={Math.abs(lead.n)}
      onchange={(n) => n !== null && offset(lead.n > 0 ? n : -n, lead.unit)}
    />
    <Pick
      label="Unit"
      options={unitOptions(Math.abs(lead.n))}
      value={lead.unit}
      onchange={(unit) => offset(lead.n, unit)}
    />
  </Labelled>
{/if}
<Labelled label="Date">
  <Pick
    label="Before or after"
    still
    options={[
      { value: 'before', label: 'before' },
      { value: 'on', label: dayLevel ? 'on' : 'at' },
      { value: 'after', label: 'after' }
    ]}
    value={side}
    onchange={turn}
  />
  <Pick
    label="Date"
    options={anchorOptions(dayLevel, { fields: dated.length > 0, others: others.length > 0 })}
    value={lead.anchor}
    onchange={setAnchor}
  />
  {#if lead.anchor === 'own date'}
    <Pick
      label="Which field"
      options={namedOptions(dated)}
      value={lead.field?.id ?? null}
      onchange={(id) => onchange({ ...lead, field: { id, end: lead.field?.end ?? 'from' } })}
    />
    {#if ranged}
      <Pick
        label="Which end"
        options={[
          { value: 'from', label: 'its beginning' },
          { value: 'until', label: 'its end' }
        ]}
        value={lead.field?.end ?? 'from'}
        onchange={(end) => onchange({ ...lead, field: { id: lead.field!.id, end } })}
      />
    {/if}
  {:else if lead.anchor === 'earlier ring'}
    <Pick
      label="Which ring"
      options={others.map(({ id, label }) => ({ value: id, label }))}
      value={lead.after ?? null}
      onchange={(after) => onchange({ ...lead, after })}
    />
  {/if}
</Labelled>
{#if dayLevel}
  <LeadTime value={lead.time} onchange={(time) => onchange({ ...lead, time })} />
  <Labelled label="Closed day">
    <Pick
      label="On a closed day"
      still
      options={CLOSED_OPTIONS}
      value={lead.closedDay}
      onchange={(closedDay) => onchange({ ...lead, closedDay })}
    />
  </Labelled>
{/if}
{#if lead.repeat}
  <Labelled label="Repeat">
    <RepeatValues repeat={lead.repeat} onchange={(repeat) => onchange({ ...lead, repeat })} />
  </Labelled>
{/if}
