<script lang="ts">
  import BellWord from '../bell/BellWord.svelte';
  import Dialog from '../dialog/Dialog.svelte';
  import { partsOf, type Guide } from './guides.ts';
  import TermWord from './TermWord.svelte';

  /** How the place works that somebody is at. */
  let { guide, onclose }: { guide: Guide; onclose: () => void } = $props();
  let close = $state<HTMLButtonElement>();
</script>

<Dialog label="How this works: {guide.title}" open first={() => close ?? null} {onclose}>
  <h2>{guide.title}: how this works</h2>
  {#each guide.text as paragraph (paragraph)}
    <p>
      {#each partsOf(paragraph) as part, i (i)}{#if i % 2 === 1}<TermWord
            term={part}
          />{:else}{part}{/if}{/each}
    </p>
  {/each}
  {#if guide.marks}
    <p class="marks">
      {#each guide.marks as kind (kind)}<BellWord {kind} />{/each}
    </p>
  {/if}
  <p class="acts">
    <button class="button" bind:this={close} onclick={onclose}>Close</button>
    <span class="quiet"
      >Words with a line under them are explained when you point at them. Press ? for the keys.</span
    >
  </p>
</Dialog>

<style>
  p {
    margin-top: 8px;
    max-width: 64ch;
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
