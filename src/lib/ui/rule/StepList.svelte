<script lang="ts">
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import X from '@lucide/svelte/icons/x';
  import type { RuleFault } from '$lib/core/rule/check.ts';
  import { stepWords } from '$lib/core/rule/read-back.ts';
  import { BARE_NAMES } from '$lib/core/rule/condition-words.ts';
  import { blankTell, type Branch, type Do, type Lead, type Step, type Wait } from '$lib/core/rule/model.ts';
  import ActRow from './ActRow.svelte';
  import Choices from './Choices.svelte';
  import ConditionTree from './ConditionTree.svelte';
  import Line from './Line.svelte';
  import Part from './Part.svelte';
  import StepList from './StepList.svelte';
  import TellStep from './TellStep.svelte';
  import WaitStep from './WaitStep.svelte';
  import { newPartId, type RuleChoices } from './choices.ts';

  /** Steps in their order, each a block of its own; the sides of a branch stand indented below it. */
  interface Props {
    steps: readonly Step[];
    leads: readonly { id: string; label: string; kind: Lead['kind'] }[];
    choices: RuleChoices;
    faults: readonly RuleFault[];
    /** What a block comes to, by the id of its step. */
    counts: Readonly<Record<string, string>>;
    onchange: (steps: Step[]) => void;
    depth?: number;
  }

  let { steps, leads, choices, faults, counts, onchange, depth = 0 }: Props = $props();

  const TITLES = { tell: 'Tell', do: 'Do', wait: 'Wait', branch: 'Branch' } as const;
  const base = () => ({ id: newPartId(), name: '', description: '', leads: null });
  const make: Record<Step['kind'], () => Step> = {
    tell: () => ({ ...blankTell(newPartId()), to: [{ who: 'owner' }] }),
    do: () => ({ ...base(), kind: 'do', acts: [{ act: 'set priority', priority: 'high' }], ask: null }),
    wait: () => ({
      ...base(),
      kind: 'wait',
      n: 2,
      unit: 'workday',
      time: choices.noticeTime,
      closedDay: 'later',
      regardless: false
    }),
    branch: () => ({
      ...base(),
      kind: 'branch',
      sides: [
        {
          name: 'important',
          condition: { field: 'priority', op: 'any of', value: ['high', 'pressing'] },
          steps: []
        }
      ],
      otherwise: []
    })
  };
  const replace = (i: number, step: Step | null) =>
    onchange(steps.flatMap((one, k) => (k === i ? (step ? [step] : []) : [one])));
  function move(i: number, by: number) {
    const moved = [...steps];
    [moved[i], moved[i + by]] = [moved[i + by]!, moved[i]!];
    onchange(moved);
  }
  const tells = $derived(steps.filter(({ kind }) => kind === 'tell'));
  /** Labels of one Tell need no number; those of several, and of sides, tell them apart. */
  const suffix = (step: Step) => {
    const at = tells.indexOf(step);
    if (depth === 0 && at === 0) return '';
    return depth === 0 ? `, step ${steps.indexOf(step) + 1}` : `, in a side, step ${steps.indexOf(step) + 1}`;
  };
  const messages = (step: Step) =>
    faults.filter((fault) => fault.step === step.id).map(({ message }) => message);
  const setSide = (branch: Branch, at: number, side: Partial<Branch['sides'][number]> | null) => ({
    ...branch,
    sides: branch.sides.flatMap((one, k) => (k === at ? (side ? [{ ...one, ...side }] : []) : [one]))
  });
</script>

{#each steps as step, i (step.id)}
  <Part title={TITLES[step.kind]} faults={messages(step)} count={counts[step.id] ?? ''}>
    <div class="head">
      <input
        class="value name"
        placeholder="name this step"
        maxlength="120"
        aria-label="Name of step {i + 1}{depth > 0 ? ' in a side' : ''}"
        value={step.name}
        onchange={(event) => replace(i, { ...step, name: event.currentTarget.value.trim() })}
      />
      <span class="moves">
        <button
          type="button"
          class="button plain"
          aria-label="Move the step up"
          disabled={i === 0}
          onclick={() => move(i, -1)}><ArrowUp size={14} /></button
        >
        <button
          type="button"
          class="button plain"
          aria-label="Move the step down"
          disabled={i === steps.length - 1}
          onclick={() => move(i, 1)}><ArrowDown size={14} /></button
        >
        <button
          type="button"
          class="button plain"
          aria-label="Take the step out: {stepWords(step, BARE_NAMES).slice(0, 60)}"
          onclick={() => replace(i, null)}><X size={14} /></button
        >
      </span>
    </div>
    {#if step.kind === 'tell'}
      <TellStep {step} {choices} suffix={suffix(step)} onchange={(changed) => replace(i, changed)} />
    {:else if step.kind === 'do'}
      {#each step.acts as act, k (k)}
        <Line label={k === 0 ? 'change' : 'and'}>
          <ActRow
            {act}
            {choices}
            onchange={(changed) =>
              replace(i, { ...step, acts: step.acts.map((one, at) => (at === k ? changed : one)) })}
            onremove={() => replace(i, { ...step, acts: step.acts.filter((_, at) => at !== k) })}
          />
        </Line>
      {/each}
      <p>
        <button
          type="button"
          class="button plain"
          onclick={() =>
            replace(i, { ...step, acts: [...step.acts, { act: 'comment', text: '‹task› was looked at.' }] })}
          >Add a change</button
        >
        <label
          ><input
            type="checkbox"
            checked={step.ask !== null}
            onchange={(event) =>
              replace(i, {
                ...step,
                ask: event.currentTarget.checked
                  ? { question: 'Is this still needed?', workingDays: 3, otherwise: 'no' }
                  : null
              } as Do)}
          /> after asking</label
        >
      </p>
      {#if step.ask}
        {@const ask = step.ask}
        <Line label="asks">
          <input
            class="value grow"
            aria-label="The question"
            maxlength="300"
            value={ask.question}
            onchange={(event) =>
              replace(i, { ...step, ask: { ...ask, question: event.currentTarget.value } })}
          />
          <span class="quiet">without an answer in</span>
          <input
            class="value count"
            type="number"
            min="0"
            max="90"
            aria-label="Working days for an answer"
            value={ask.workingDays}
            onchange={(event) =>
              replace(i, {
                ...step,
                ask: { ...ask, workingDays: Math.max(0, Math.trunc(Number(event.currentTarget.value)) || 0) }
              })}
          />
          <span class="quiet">working days it is</span>
          <select
            class="value"
            aria-label="Without an answer"
            value={ask.otherwise}
            onchange={(event) =>
              replace(i, { ...step, ask: { ...ask, otherwise: event.currentTarget.value as 'yes' | 'no' } })}
          >
            <option>yes</option><option>no</option>
          </select>
        </Line>
      {/if}
    {:else if step.kind === 'wait'}
      <WaitStep {step} noticeTime={choices.noticeTime} onchange={(changed: Wait) => replace(i, changed)} />
    {:else}
      {#each step.sides as side, k (k)}
        <div class="side">
          <div class="head">
            <input
              class="value name"
              placeholder="name this side"
              maxlength="120"
              aria-label="Name of side {k + 1}"
              value={side.name}
              onchange={(event) => replace(i, setSide(step, k, { name: event.currentTarget.value.trim() }))}
            />
            <button
              type="button"
              class="button plain"
              aria-label="Take the side {side.name || k + 1} out"
              onclick={() => replace(i, setSide(step, k, null))}><X size={14} /></button
            >
          </div>
          <ConditionTree
            label="Condition of the side {side.name || k + 1}"
            condition={side.condition}
            {choices}
            onchange={(condition) => replace(i, setSide(step, k, { condition: condition ?? { all: [] } }))}
          />
          <StepList
            steps={side.steps}
            {leads}
            {choices}
            {faults}
            {counts}
            depth={depth + 1}
            onchange={(inner) => replace(i, setSide(step, k, { steps: inner }))}
          />
        </div>
      {/each}
      <p>
        <button
          type="button"
          class="button plain"
          onclick={() =>
            replace(i, {
              ...step,
              sides: [
                ...step.sides,
                { name: '', condition: { field: 'priority', op: 'is', value: 'low' }, steps: [] }
              ]
            })}>Add a side</button
        >
      </p>
      <div class="side">
        <p class="quiet">otherwise</p>
        <StepList
          steps={step.otherwise}
          {leads}
          {choices}
          {faults}
          {counts}
          depth={depth + 1}
          onchange={(otherwise) => replace(i, { ...step, otherwise })}
        />
      </div>
    {/if}
    {#if leads.length > 1}
      <Line label="answers">
        <details open={step.leads !== null}>
          <summary class="quiet">{step.leads === null ? 'every ring time' : 'these ring times only'}</summary>
          <Choices
            legend="Ring times that this step answers"
            options={leads.map(({ id, label }) => ({ value: id, label }))}
            chosen={step.leads ?? leads.map(({ id }) => id)}
            onchange={(chosen) =>
              replace(i, { ...step, leads: chosen.length === leads.length ? null : chosen })}
          />
        </details>
      </Line>
    {/if}
  </Part>
{/each}
<p class="add">
  <select
    class="value"
    aria-label={depth === 0 ? 'Add a step' : 'Add a step to this side'}
    value=""
    onchange={(event) => {
      const kind = event.currentTarget.value as Step['kind'] | '';
      if (kind) onchange([...steps, make[kind]()]);
      event.currentTarget.value = '';
    }}
  >
    <option value="">add a step…</option>
    <option value="tell">tell somebody</option><option value="do">change something</option><option
      value="wait">wait</option
    ><option value="branch">branch</option>
  </select>
</p>

<style>
  .head {
    display: flex;
    gap: 6px;
    align-items: center;
  }
  .name {
    flex: 1;
    font-weight: 550;
  }
  .moves {
    display: flex;
  }
  .side {
    border-left: 2px solid var(--line);
    padding-left: 10px;
    display: grid;
    gap: 6px;
  }
  .grow {
    flex: 1 1 200px;
  }
  .count {
    width: 56px;
  }
  .add {
    padding: 8px 0 10px 62px;
  }
  details {
    width: 100%;
  }
  summary {
    cursor: pointer;
    width: fit-content;
    padding-top: 4px;
  }
  input[type='checkbox'] {
    accent-color: var(--brass-deep);
  }
</style>
