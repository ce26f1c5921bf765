<script lang="ts">
  import { ACT_NAMES } from '$lib/core/rule/acts.ts';
  import type { Do } from '$lib/core/rule/step-model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { plainOptions } from '$lib/ui/pick/option.ts';
  import ActRow from './ActRow.svelte';
  import Line from './Line.svelte';
  import TakeOut from './TakeOut.svelte';
  import { ACT_LABELS, isOffered, newAct } from './acts.ts';
  import type { RuleChoices } from './choices.ts';
  import { replaced } from './steps.ts';

  /** What is changed, and whether somebody is asked before it is. */
  interface Props {
    step: Do;
    choices: RuleChoices;
    onchange: (step: Do) => void;
  }

  let { step, choices, onchange }: Props = $props();
  const setAct = (i: number, act: Do['acts'][number] | null) =>
    onchange({ ...step, acts: replaced(step.acts, i, act) });
  const setAsk = (patch: Partial<NonNullable<Do['ask']>>) =>
    onchange({ ...step, ask: { ...step.ask!, ...patch } });
</script>

{#each step.acts as act, i (i)}
  <Line label={i === 0 ? 'change' : 'and'}>
    <ActRow {act} {choices} onchange={(changed) => setAct(i, changed)} onremove={() => setAct(i, null)} />
  </Line>
{/each}
{#if step.ask}
  {@const ask = step.ask}
  <Line label="ask first">
    <input
      class="value grow"
      aria-label="The question"
      maxlength="300"
      value={ask.question}
      onchange={(event) => setAsk({ question: event.currentTarget.value })}
    />
    <TakeOut label="Do it without asking" onclick={() => onchange({ ...step, ask: null })} />
    <span class="quiet">without an answer in</span>
    <NumberValue
      label="Working days for an answer"
      max={90}
      value={ask.workingDays}
      onchange={(workingDays) => workingDays !== null && setAsk({ workingDays })}
    />
    <span class="quiet">working days; no answer counts as</span>
    <Pick
      label="Without an answer"
      options={plainOptions(['yes', 'no'] as const)}
      value={ask.otherwise}
      onchange={(otherwise) => setAsk({ otherwise })}
    />
  </Line>
{/if}
<Line label="">
  <AddMenu
    caption="Add a change"
    label="a change"
    options={ACT_NAMES.filter((name) => isOffered(name, choices)).map((name) => ({
      value: name,
      label: ACT_LABELS[name]
    }))}
    onadd={(name) => onchange({ ...step, acts: [...step.acts, newAct(name, choices)] })}
  />
  {#if !step.ask}
    <button
      type="button"
      class="button plain"
      onclick={() =>
        onchange({
          ...step,
          ask: { question: 'Is this still needed?', workingDays: 3, otherwise: 'no' }
        })}>ask first</button
    >
  {/if}
</Line>

<style>
  .grow {
    flex: 1 1 200px;
  }
</style>
