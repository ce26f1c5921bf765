<script lang="ts">
  import type { Snippet } from 'svelte';

  /** Values of a ring time under their caption. Each value has a name of its own for those who do not see the caption above it. */
  let { label, children }: { label: string; children: Snippet } = $props();
</script>

<span class="labelled">
  <span class="caption" aria-hidden="true">{label}</span>
  <span class="values">{@render children()}</span>
</span>

<style>
  .labelled {
    display: inline-grid;
    gap: 1px;
    align-self: end;
  }
  .caption {
    color: var(--ink-3);
    font-size: 11.5px;
    line-height: 1.2;
  }
  .values {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 4px;
    align-items: center;
    min-height: 30px;
  }
</style>
