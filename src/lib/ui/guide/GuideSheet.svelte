<script lang="ts">
  import BellWord from '../bell/BellWord.svelte';
  import Dialog from '../dialog/Dialog.svelte';
  import { partsOf, type Guide } from './guides.ts';
  import { TERMS, type Term } from './terms.ts';

  /** How the place works that somebody is at. */
  let { guide, onclose }: { guide: Guide; onclose: () => void } = $props();
  let close = $state<HTMLButtonElement>();
  /** The word of ours that somebody points at, or has come to by keyboard. */
  let asked = $state<string | null>(null);
</script>

<Dialog label="How this works: {guide.title}" open first={() => close ?? null} {onclose}>
  <h2>{guide.title}: how this works</h2>
  {#each guide.text as paragraph (paragraph)}
    <p>
      {#each partsOf(paragraph) as part, i (i)}{#if i % 2 === 1}<button
            type="button"
            class="term"
            onmouseenter={() => (asked = part)}
            onfocus={() => (asked = part)}>{part}</button
          >{:else}{part}{/if}{/each}
    </p>
  {/each}
  {#if guide.marks}
    <p class="marks">
      {#each guide.marks as kind (kind)}<BellWord {kind} />{/each}
    </p>
  {/if}
  <p class="means" role="status">
    {#if asked}<b>{asked}</b>: {TERMS[asked as Term]}{:else}<span class="quiet"
        >Point at a word with a line under it, or press Tab, to read what it means. Press ? for the keys.</span
      >{/if}
  </p>
  <p class="acts">
    <button class="button" bind:this={close} onclick={onclose}>Close</button>
  </p>
</Dialog>

<style>
  p {
    margin-top: 8px;
    max-width: 64ch;
  }
  .term {
    border-bottom: 1px solid var(--brass);
    cursor: help;
  }
  .means {
    min-height: 44px;
    margin-top: 12px;
    padding-top: 8px;
    border-top: 1px solid var(--line-soft);
    font-size: 13px;
  }
  .marks,
  .acts {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 16px;
  }
  .acts {
    margin-top: 14px;
  }
</style>
