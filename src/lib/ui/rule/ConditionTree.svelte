<script lang="ts">
  import { DEEPEST, partsOf, type Condition, type Test } from '$lib/core/rule/condition.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import ConditionTree from './ConditionTree.svelte';
  import TakeOut from './TakeOut.svelte';
  import TestRow from './TestRow.svelte';
  import type { RuleChoices } from './choices.ts';
  import { newTest, testedOptions, withPart } from './tests.ts';

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
  const JOINED = { all: 'all are true', any: 'at least one is true', none: 'none is true' };

  const make = (how: 'all' | 'any' | 'none', parts: Condition[]): Condition =>
    how === 'all' ? { all: parts } : how === 'any' ? { any: parts } : { none: parts };
  const replace = (i: number, part: Condition | null) => {
    const parts = (group?.parts ?? []).flatMap((one, k) => (k === i ? (part ? [part] : []) : [one]));
    onchange(parts.length === 0 ? null : make(group?.how ?? 'all', parts));
  };
  const GROUP = 'Add a group of tests';
  const addable = $derived([
    ...testedOptions(choices),
    ...(group && depth < DEEPEST - 2 ? [{ value: GROUP, label: GROUP }] : [])
  ]);
  const add = (key: string) =>
    onchange(
      withPart(condition, key === GROUP ? { any: [newTest('priority', choices)] } : newTest(key, choices))
    );
</script>

<div class="group" class:inner={depth > 0} role="group" aria-label={label}>
  {#if group}
    {#if group.parts.length > 1 || group.how !== 'all' || depth > 0}
      <div class="how">
        <Pick
          label="How the tests are joined"
          still
          options={wordOptions(JOINED)}
          value={group.how}
          onchange={(how) => onchange(make(how, group.parts))}
        />
        {#if depth > 0}<TakeOut label="Take this group out" onclick={() => onchange(null)} />{/if}
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
  <AddMenu caption="Add a test" label="a test" options={addable} onadd={add} />
</div>

<style>
  .group {
    display: grid;
    gap: 4px;
    width: 100%;
    justify-items: start;
  }
  .inner {
    border-left: 2px solid var(--line);
    padding-left: 9px;
  }
  .how {
    display: flex;
    gap: 4px;
    align-items: center;
  }
</style>
