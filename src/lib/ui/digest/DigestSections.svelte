<script lang="ts">
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import { DIGEST_SECTIONS, type DigestSection } from '$lib/core/digest/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import TakeOut from '$lib/ui/rule/TakeOut.svelte';
  import { SECTION_WORDS } from '$lib/view/digests.ts';

  /** What a digest holds, in its order: a task stands in the first that it fits. */
  interface Props {
    sections: readonly DigestSection[];
    nextWorkingDays: number;
    onchange: (sections: DigestSection[]) => void;
    onnext: (days: number) => void;
  }

  let { sections, nextWorkingDays, onchange, onnext }: Props = $props();
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
