<script lang="ts">
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import { DIGEST_SECTIONS, isTable, type DigestSection, type DigestTable } from '$lib/core/digest/model.ts';
  import { GROUP_WORDS, ORDER_WORDS } from '$lib/core/digest/section-words.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { listOptions, wordOptions } from '$lib/ui/pick/option.ts';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Line from '$lib/ui/rule/Line.svelte';
  import TakeOut from '$lib/ui/rule/TakeOut.svelte';
  import { SECTION_WORDS } from '$lib/view/digests.ts';

  /** What a digest holds, in its order: a task stands in the first that it fits, and in each table of everything besides. */
  interface Props {
    sections: readonly DigestSection[];
    nextWorkingDays: number;
    table: DigestTable;
    lists: readonly { id: number; name: string; unfit: string | null }[];
    onchange: (sections: DigestSection[]) => void;
    onnext: (days: number) => void;
    ontable: (patch: Partial<DigestTable>) => void;
  }

  let { sections, nextWorkingDays, table, lists, onchange, onnext, ontable }: Props = $props();
  const ofLists = $derived(listOptions(lists, table.list, 'choose a list'));
  const left = $derived(DIGEST_SECTIONS.filter((one) => !sections.includes(one)));

  function raise(i: number) {
    const moved = [...sections];
    [moved[i - 1], moved[i]] = [moved[i]!, moved[i - 1]!];
    onchange(moved);
  }
</script>

<ol>
  {#each sections as section, i (section)}
    <li>
      <span class="number">{i + 1}</span>
      <span class="name">{SECTION_WORDS[section]}</span>
      {#if section === 'due next'}
        <NumberValue
          label="How many working days ahead"
          min={1}
          max={60}
          value={nextWorkingDays}
          onchange={(days) => days !== null && onnext(days)}
        />
      {/if}
      {#if section === 'all of a list'}
        <Pick
          label="Saved list of the table"
          options={ofLists}
          value={table.list ?? 0}
          onchange={(list) => ontable({ list: list || null })}
        />
      {/if}
      <button
        type="button"
        class="button plain"
        disabled={i === 0}
        aria-label="Move “{SECTION_WORDS[section]}” up"
        onclick={() => raise(i)}><ArrowUp size={14} /></button
      >
      <TakeOut
        label="Remove “{SECTION_WORDS[section]}”"
        onclick={() => onchange(sections.filter((one) => one !== section))}
      />
    </li>
  {/each}
</ol>
{#if sections.some(isTable)}
  <Line label="tables">
    <Pick
      label="Order of the tables"
      options={wordOptions(ORDER_WORDS)}
      value={table.order}
      onchange={(order) => ontable({ order })}
    />
    <Pick
      label="Groups of the tables"
      still
      options={wordOptions(GROUP_WORDS)}
      value={table.group}
      onchange={(group) => ontable({ group })}
    />
    <span class="quiet">Tables repeat tasks of other sections.</span>
  </Line>
{/if}
{#if left.length > 0}
  <AddMenu
    caption="Add a section"
    label="a section"
    options={left.map((value) => ({ value, label: SECTION_WORDS[value] }))}
    onadd={(section) => onchange([...sections, section])}
  />
{/if}

<style>
  ol {
    width: 100%;
    display: grid;
  }
  li {
    display: flex;
    align-items: center;
    gap: 6px;
    min-height: 30px;
    border-bottom: 1px solid var(--line);
  }
  .number {
    width: 18px;
    color: var(--ink-3);
    font-variant-numeric: tabular-nums;
  }
  .name {
    flex: 1;
  }
</style>
