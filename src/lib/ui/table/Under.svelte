<script lang="ts">
  import type { Snippet } from 'svelte';

  /** What a row opened, over all columns. */
  let { id, columns, children }: { id: string; columns: number; children: Snippet } = $props();
</script>

<tr><td colspan={columns} {id}>{@render children()}</td></tr>

<style>
  td {
    background: color-mix(in srgb, var(--brass-wash) 45%, transparent);
    padding: 8px 12px 10px 22px;
  }
  td :global(ol) {
    list-style: decimal;
    padding-left: 18px;
    max-width: 76ch;
  }
  td :global(li) {
    padding: 1px 0;
  }
</style>
