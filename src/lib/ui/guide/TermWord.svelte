<script lang="ts">
  import { Portal, Tooltip } from '@skeletonlabs/skeleton-svelte';
  import { TERMS, type Term } from './terms.ts';

  /** A word of ours, defined where somebody points at it or comes to it by keyboard. */
  let { term }: { term: string } = $props();
</script>

<Tooltip openDelay={150} closeDelay={80} positioning={{ placement: 'top' }}>
  <Tooltip.Trigger class="term">{term}</Tooltip.Trigger>
  <Portal>
    <Tooltip.Positioner class="term-place">
      <Tooltip.Content class="term-means">{TERMS[term as Term]}</Tooltip.Content>
    </Tooltip.Positioner>
  </Portal>
</Tooltip>

<style>
  :global(.term) {
    border-bottom: 1px solid var(--brass);
    cursor: help;
  }
  :global(.term-place) {
    z-index: 70 !important;
  }
  :global(.term-means) {
    max-width: 280px;
    padding: 6px 10px;
    border-radius: 7px;
    background: var(--ink);
    color: var(--paper);
    font-size: 12.5px;
  }
</style>
