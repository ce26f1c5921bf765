<script lang="ts">
  import { PHASES, PRIORITIES, UNSEEN, watchedPhases, type RuleDefinition } from '$lib/core/rule/model.ts';
  import Choices from './Choices.svelte';
  import ConditionTree from './ConditionTree.svelte';
  import Line from './Line.svelte';
  import Part from './Part.svelte';
  import type { RuleChoices } from './choices.ts';

  /** Which tasks a rule looks at. */
  interface Props {
    definition: RuleDefinition;
    choices: RuleChoices;
    watched: number;
    faults: readonly string[];
  }

  let { definition = $bindable(), choices, watched, faults }: Props = $props();
  const watch = $derived(definition.watch);
</script>

<Part title="Watch" {faults} count="{watched} tasks are watched now">
  <Line label="tasks in">
    <Choices
      legend="Projects; none chosen means every task"
      options={choices.projects.map(({ id, name }) => ({ value: id, label: name }))}
      chosen={watch.projects ?? []}
      onchange={(chosen) => (definition.watch.projects = chosen.length > 0 ? chosen : null)}
    />
    {#if watch.projects === null}<span class="quiet">none chosen: every task, in any project or none</span
      >{/if}
  </Line>
  {#if choices.lists.length > 0 || watch.list !== null}
    <Line label="of the list">
      <select
        class="value"
        aria-label="Saved list"
        value={String(watch.list ?? '')}
        onchange={(event) => (definition.watch.list = Number(event.currentTarget.value) || null)}
      >
        <option value="">any: no saved list narrows it</option>
        {#if watch.list !== null && !choices.lists.some(({ id }) => id === watch.list)}
          <option value={String(watch.list)}>somebody else’s list, or one that is gone</option>
        {/if}
        {#each choices.lists as { id, name, unfit } (id)}
          <option value={String(id)} disabled={unfit !== null}>{unfit ? `${name} (${unfit})` : name}</option>
        {/each}
      </select>
    </Line>
  {/if}
  <Line label="that are">
    <Choices
      legend="Phases"
      options={PHASES.map((phase) => ({ value: phase, label: phase }))}
      chosen={watchedPhases(definition)}
      onchange={(chosen) => (definition.watch.phases = chosen)}
    />
    {#if watch.phases === null}<span class="quiet">as the ring times ask</span>{:else}<button
        type="button"
        class="button plain"
        onclick={() => (definition.watch.phases = null)}>as the ring times ask</button
      >{/if}
  </Line>
  <Line label="of priority">
    <Choices
      legend="Priorities"
      options={PRIORITIES.map((priority) => ({ value: priority, label: priority }))}
      chosen={watch.priorities}
      onchange={(chosen) => (definition.watch.priorities = chosen)}
    />
  </Line>
  {#if choices.tags.length > 0}
    <Line label="tagged">
      <details open={watch.tags.length > 0}>
        <summary class="quiet">{watch.tags.length === 0 ? 'in any way or none' : 'with one of these'}</summary
        >
        <Choices
          legend="Tags"
          options={choices.tags.map((tag) => ({ value: tag, label: tag }))}
          chosen={watch.tags}
          onchange={(chosen) => (definition.watch.tags = chosen)}
        />
      </details>
    </Line>
  {/if}
  <Line label="seen too">
    <details open={watch.seen.length > 0}>
      <summary class="quiet"
        >{watch.seen.length === 0 ? 'nothing that stands apart' : watch.seen.join(', ')}</summary
      >
      <Choices
        legend="What is not seen unless it is said"
        options={UNSEEN.map((one) => ({
          value: one,
          label: one === 'called off' ? 'of a project that is not open' : one
        }))}
        chosen={watch.seen}
        onchange={(chosen) => (definition.watch.seen = chosen)}
      />
    </details>
  </Line>
  <Line label="where">
    <ConditionTree
      label="Condition of the Watch"
      condition={watch.condition}
      {choices}
      onchange={(condition) => (definition.watch.condition = condition)}
    />
  </Line>
</Part>

<style>
  summary {
    cursor: pointer;
    width: fit-content;
    padding-top: 4px;
  }
</style>
