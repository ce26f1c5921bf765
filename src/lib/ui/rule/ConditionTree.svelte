<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { DEEPEST, partsOf, type Condition, type Test } from '$lib/core/rule/condition.ts';
  import ConditionTree from './ConditionTree.svelte';
  import TestRow from './TestRow.svelte';
  import type { RuleChoices } from './choices.ts';

  /** A tree of tests: all, any or none of its parts. */
  interface Props {
    condition: Condition | null;
    choices: RuleChoices;
    onchange: (condition: Condition | null) => void;
    /** What it is a condition of, for those who hear it. */
    label: string;
    depth?: number;
  }

  let { condition, choices, onchange, label, depth = 0 }: Props = $props();

  // A test that stands alone is shown as the one part of a group.
  const group = $derived(
    condition ? (partsOf(condition) ?? { how: 'all' as const, parts: [condition] }) : null
  );
  const WORDS = { all: 'all of these', any: 'any of these', none: 'none of these' };

  const make = (how: 'all' | 'any' | 'none', parts: Condition[]): Condition =>
    how === 'all' ? { all: parts } : how === 'any' ? { any: parts } : { none: parts };
  function setParts(parts: Condition[]) {
    onchange(parts.length === 0 ? null : make(group?.how ?? 'all', parts));
  }
  const replace = (i: number, part: Condition | null) =>
    setParts((group?.parts ?? []).flatMap((one, k) => (k === i ? (part ? [part] : []) : [one])));
  const FIRST: Test = { field: 'priority', op: 'is', value: 'high' };
</script>

<div class="group" class:inner={depth > 0} role="group" aria-label={label}>
  {#if group}
    {#if group.parts.length > 1 || group.how !== 'all' || depth > 0}
      <div class="how">
        <select
          class="value"
          aria-label="How the tests are joined"
          value={group.how}
          onchange={(event) =>
            onchange(make(event.currentTarget.value as 'all' | 'any' | 'none', group.parts))}
        >
          {#each Object.entries(WORDS) as [how, words] (how)}<option value={how}>{words}</option>{/each}
        </select>
        {#if depth > 0}<button
            type="button"
            class="button plain"
            aria-label="Take this group out"
            onclick={() => onchange(null)}><X size={14} /></button
          >{/if}
      </div>
    {/if}
    {#each group.parts as part, i (i)}
      {#if partsOf(part)}
        <ConditionTree
          condition={part}
          {choices}
          label="{label}, group {i + 1}"
          depth={depth + 1}
          onchange={(changed) => replace(i, changed)}
        />
      {:else}
        <TestRow
          test={part as Test}
          {choices}
          onchange={(changed) => replace(i, changed)}
          onremove={() => replace(i, null)}
        />
      {/if}
    {/each}
  {/if}
  <div class="add">
    <button
      type="button"
      class="button plain"
      onclick={() => setParts([...(group?.parts ?? []), { ...FIRST }])}>Add a test</button
    >
    {#if group && depth < DEEPEST - 2}
      <button
        type="button"
        class="button plain"
        onclick={() => setParts([...group.parts, { any: [{ ...FIRST }] }])}>Add a group</button
      >
    {/if}
  </div>
</div>

<style>
  .group {
    display: grid;
    gap: 5px;
    width: 100%;
  }
  .inner {
    border-left: 2px solid var(--line);
    padding-left: 9px;
  }
  .how,
  .add {
    display: flex;
    gap: 4px;
    align-items: center;
  }
</style>
