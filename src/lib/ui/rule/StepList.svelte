<script lang="ts">
  import { stepInShort } from '$lib/core/rule/words/step-words.ts';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import type { RuleFault } from '$lib/core/rule/rule-fault.ts';
  import { BARE_NAMES } from '$lib/core/rule/words/condition-words.ts';
  import { allSteps, type Branch, type Step, type Wait } from '$lib/core/rule/step-model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import type { WordsView } from '$lib/view/rule-trials.ts';
  import ConditionTree from './ConditionTree.svelte';
  import DoStep from './DoStep.svelte';
  import Part from './Part.svelte';
  import StepFoot from './StepFoot.svelte';
  import StepList from './StepList.svelte';
  import TakeOut from './TakeOut.svelte';
  import TellStep from './TellStep.svelte';
  import WaitStep from './WaitStep.svelte';
  import type { RuleChoices } from './choices.ts';
  import { newSide, newStep, replaced, STEP_TITLES, STEP_WORDS } from './steps.ts';

  /** What stays the same for every step of a rule. */
  interface Shared {
    leads: readonly { id: string; label: string }[];
    choices: RuleChoices;
    faults: readonly RuleFault[];
    /** What a block comes to, by the id of its step. */
    counts: Readonly<Record<string, string>>;
    /** The words of Tells about a real task, by the id of the step. */
    words: Readonly<Record<string, WordsView>>;
    /** Tasks that the words can be read about. */
    tasks: readonly { id: number; name: string }[];
    ontask: (id: number) => void;
  }

  /** Steps in their order, each a block of its own; the sides of a branch stand indented below it. */
  interface Props {
    steps: readonly Step[];
    shared: Shared;
    onchange: (steps: Step[]) => void;
    /** Where it stands: empty for the steps of the rule itself, else the side that it is of. */
    side?: string;
  }

  let { steps, shared, onchange, side = '' }: Props = $props();
  const { leads, choices, ontask } = $derived(shared);

  const replace = (i: number, step: Step | null) => onchange(replaced(steps, i, step));
  function move(i: number, by: number) {
    const moved = [...steps];
    [moved[i], moved[i + by]] = [moved[i + by]!, moved[i]!];
    onchange(moved);
  }
  const where = $derived(side ? `, ${side}` : '');
  /** The labels of an only Tell need no number. */
  const suffix = (i: number) =>
    side === '' && steps.findIndex(({ kind }) => kind === 'tell') === i ? '' : `${where}, step ${i + 1}`;
  const messages = (step: Step) =>
    shared.faults.filter((fault) => fault.step === step.id).map(({ message }) => message);
  const setSide = (branch: Branch, at: number, changed: Partial<Branch['sides'][number]> | null): Branch => ({
    ...branch,
    sides: replaced(branch.sides, at, changed && { ...branch.sides[at]!, ...changed })
  });
  /** Steps can be named where there are several to be told apart. */
  const named = (step: Step) => step.name !== '' || side !== '' || allSteps([...steps]).length > 1;
</script>

{#each steps as step, i (step.id)}
  <Part title={STEP_TITLES[step.kind]} faults={messages(step)} count={shared.counts[step.id] ?? ''}>
    {#if named(step)}
      <div class="head">
        <input
          class="name"
          placeholder="Name of this step"
          maxlength="120"
          aria-label="Name of step {i + 1}{where}"
          value={step.name}
          onchange={(event) => replace(i, { ...step, name: event.currentTarget.value.trim() })}
        />
        <button
          type="button"
          class="move"
          aria-label="Move step {i + 1}{where} up"
          disabled={i === 0}
          onclick={() => move(i, -1)}><ArrowUp size={14} /></button
        >
        <button
          type="button"
          class="move"
          aria-label="Move step {i + 1}{where} down"
          disabled={i === steps.length - 1}
          onclick={() => move(i, 1)}><ArrowDown size={14} /></button
        >
        <TakeOut
          label="Remove the step: {stepInShort(step, BARE_NAMES).slice(0, 60)}"
          onclick={() => replace(i, null)}
        />
      </div>
    {/if}
    {#if step.kind === 'tell'}
      <TellStep
        {step}
        {choices}
        {leads}
        suffix={suffix(i)}
        words={shared.words[step.id] ?? null}
        tasks={shared.tasks}
        {ontask}
        onchange={(changed) => replace(i, changed)}
      />
    {:else if step.kind === 'do'}
      <DoStep {step} {choices} onchange={(changed) => replace(i, changed)} />
    {:else if step.kind === 'wait'}
      <WaitStep {step} noticeTime={choices.noticeTime} onchange={(changed: Wait) => replace(i, changed)} />
    {:else}
      {#each step.sides as one, k (k)}
        {@const called = one.name ? `branch ${one.name}` : `branch ${k + 1}`}
        <div class="side" role="group" aria-label={called}>
          <div class="head">
            <input
              class="name"
              placeholder="Name of branch {k + 1}"
              maxlength="120"
              aria-label="Name of branch {k + 1}"
              value={one.name}
              onchange={(event) => replace(i, setSide(step, k, { name: event.currentTarget.value.trim() }))}
            />
            <TakeOut label="Remove {called}" onclick={() => replace(i, setSide(step, k, null))} />
          </div>
          <ConditionTree
            label="Condition of {called}"
            condition={one.condition}
            {choices}
            onchange={(condition) => replace(i, setSide(step, k, { condition: condition ?? { all: [] } }))}
          />
          <StepList
            steps={one.steps}
            {shared}
            side={called}
            onchange={(inner) => replace(i, setSide(step, k, { steps: inner }))}
          />
        </div>
      {/each}
      <p>
        <button
          type="button"
          class="button plain"
          onclick={() => replace(i, { ...step, sides: [...step.sides, newSide()] })}>Add a branch</button
        >
      </p>
      <div class="side" role="group" aria-label="otherwise">
        <p class="quiet">otherwise</p>
        <StepList
          steps={step.otherwise}
          {shared}
          side="otherwise"
          onchange={(otherwise) => replace(i, { ...step, otherwise })}
        />
      </div>
    {/if}
    <StepFoot {step} {leads} suffix="{where}, step {i + 1}" onchange={(changed) => replace(i, changed)} />
  </Part>
{/each}
<p class="add" class:inner={side !== ''}>
  <AddMenu
    caption="Add a step"
    label={side ? `a step to ${side}` : 'a step'}
    options={wordOptions(STEP_WORDS)}
    onadd={(kind) => onchange([...steps, newStep(kind, choices, side !== '')])}
  />
</p>

<style>
  .head {
    display: flex;
    gap: 2px;
    align-items: center;
  }
  .name {
    flex: 1;
    min-width: 0;
    font-size: 13px;
    font-weight: 550;
    padding: 3px 0;
    background: none;
  }
  .name:focus-visible {
    outline-offset: 0;
  }
  .move {
    display: inline-flex;
    align-items: center;
    justify-content: center;
    width: 24px;
    height: 30px;
    color: var(--ink-3);
    cursor: pointer;
  }
  .move:disabled {
    opacity: 0.35;
    cursor: default;
  }
  .side {
    border-left: 2px solid var(--line);
    padding-left: 10px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
  }
  .add {
    padding: 4px 0 6px 62px;
    border-top: 1px solid var(--line);
  }
  .add.inner {
    padding: 2px 0;
    border-top: none;
  }
</style>
