<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A count in words with what it counts folded below it, open where that is short, and how many more there are than are listed. */
  let {
    words,
    count,
    listed,
    openUpTo = 8,
    children
  }: { words: string; count: number; listed: number; openUpTo?: number; children: Snippet } = $props();
</script>

<details open={count <= openUpTo}>
  <summary>{words}</summary>
  {@render children()}
  {#if count > listed}<p class="quiet">and {(count - listed).toLocaleString('en')} more</p>{/if}
</details>

<style>
  summary {
    cursor: pointer;
    font-weight: 600;
    padding: 4px 0;
    width: fit-content;
  }
  details {
    margin-bottom: 6px;
  }
</style>
