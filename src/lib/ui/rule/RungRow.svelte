<script lang="ts">
  import Labelled from './Labelled.svelte';
  import LeadTime from './LeadTime.svelte';
  import { RUNG_UNITS } from '$lib/core/ladder/clock.ts';
  import { defaultClosedDay, isDayLevel, type Unit } from '$lib/core/ring/lead.ts';
  import type { OffsetLead, RungTiming } from '$lib/core/rule/lead-model.ts';
  import { PRIORITIES } from '$lib/core/task/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { namedOptions, plainOptions } from '$lib/ui/pick/option.ts';
  import RepeatValues from './RepeatValues.svelte';
  import TakeOut from './TakeOut.svelte';
  import type { RuleChoices } from './choices.ts';
  import { unitOptions } from './words.ts';

  /** A rung of a ladder: how long something is late when it rings, with other timings for some tasks. */
  interface Props {
    lead: OffsetLead;
    choices: RuleChoices;
    /** Only the last rung is repeated. */
    isLast: boolean;
    onchange: (lead: OffsetLead) => void;
  }

  let { lead, choices, isLast, onchange }: Props = $props();
  const units = (n: number) => unitOptions(Math.abs(n)).filter(({ value }) => RUNG_UNITS.includes(value));
  const instead = $derived(lead.instead ?? []);
  const dayLevel = $derived(isDayLevel(lead.unit) || instead.some(({ unit }) => isDayLevel(unit)));
  const sideOf = (n: number) => (n === 0 ? 'at' : n < 0 ? 'before' : 'after');

  function set(n: number, unit: Unit) {
    const time = isDayLevel(unit) ? (lead.time ?? choices.noticeTime) : null;
    onchange({ ...lead, n, unit, closedDay: defaultClosedDay(n, unit), time });
  }
  const turned = (n: number, side: string) =>
    side === 'at' ? 0 : side === 'before' ? -(Math.abs(n) || 1) : Math.abs(n) || 1;
  const replace = (i: number, timing: RungTiming | null) =>
    onchange({ ...lead, instead: instead.flatMap((old, k) => (k === i ? (timing ? [timing] : []) : [old])) });
  const another = (): RungTiming => ({
    only: { priorities: ['pressing'], tags: [], groups: [] },
    n: Math.max(1, Math.round(Math.abs(lead.n) / 2)) * Math.sign(lead.n || 1),
    unit: lead.unit
  });
</script>

{#snippet timing(n: number, unit: Unit, of: string, change: (n: number, unit: Unit) => void)}
  <Pick
    label="{of}Before or after it is overdue"
    still
    options={[
      { value: 'at', label: 'as soon as it is overdue' },
      { value: 'after', label: 'after it is overdue by' },
      { value: 'before', label: 'before it is overdue by' }
    ]}
    value={sideOf(n)}
    onchange={(side) => change(turned(n, side), unit)}
  />
  {#if n !== 0}
    <NumberValue
      label="{of}How many"
      min={1}
      value={Math.abs(n)}
      onchange={(amount) => amount !== null && change(n < 0 ? -amount : amount, unit)}
    />
    <Pick label="{of}Unit" options={units(n)} value={unit} onchange={(next) => change(n, next)} />
  {/if}
{/snippet}

<Labelled label="Overdue by">{@render timing(lead.n, lead.unit, '', set)}</Labelled>
{#if dayLevel}
  <LeadTime value={lead.time} onchange={(time) => onchange({ ...lead, time })} />
{/if}
{#each instead as one, i (i)}
  <div class="instead" role="group" aria-label="Other timing {i + 1}">
    <span class="quiet">for priority</span>
    <PickMany
      label="Priorities with this timing"
      options={plainOptions(PRIORITIES)}
      chosen={one.only.priorities}
      onchange={(priorities) => replace(i, { ...one, only: { ...one.only, priorities } })}
    />
    {#if choices.groups.length > 0}
      <span class="quiet">and an owner in</span>
      <PickMany
        label="Groups of owners with this timing"
        options={namedOptions(choices.groups)}
        chosen={one.only.groups}
        onchange={(groups) => replace(i, { ...one, only: { ...one.only, groups } })}
      />
    {/if}
    {@render timing(one.n, one.unit, 'Other timing: ', (n, unit) => replace(i, { ...one, n, unit }))}
    <TakeOut label="Remove this timing" onclick={() => replace(i, null)} />
  </div>
{/each}
{#if lead.repeat}
  <Labelled label="Repeat">
    <RepeatValues
      repeat={lead.repeat}
      units={RUNG_UNITS}
      onchange={(repeat) => onchange({ ...lead, repeat })}
    />
    <TakeOut label="Ring once only" onclick={() => onchange({ ...lead, repeat: null })} />
  </Labelled>
{:else if isLast}
  <AddMenu
    caption="Repeat…"
    label="a repeat of the last level"
    options={[{ value: 'workday', label: 'every working day' }]}
    onadd={() => onchange({ ...lead, repeat: { n: 1, unit: 'workday', most: 5 } })}
  />
{/if}
<AddMenu
  caption="Other timing for…"
  label="another timing for some tasks"
  options={[{ value: 'instead', label: 'some priorities or groups' }]}
  onadd={() => onchange({ ...lead, instead: [...instead, another()] })}
/>

<style>
  .instead {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 4px;
    align-items: center;
    flex-basis: 100%;
  }
</style>
