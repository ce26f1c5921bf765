<script lang="ts">
  import type { Snippet } from 'svelte';

  /** One line of a part: what it is about, and its values. */
  let { label, children }: { label: string; children: Snippet } = $props();
</script>

<div class="line">
  <span class="label">{label}</span>
  <div class="values">{@render children()}</div>
</div>

<style>
  .line {
    display: grid;
    grid-template-columns: 66px minmax(0, 1fr);
    align-items: start;
    font-size: 13px;
  }
  .label {
    color: var(--ink-3);
    font-size: 12.5px;
    padding-top: 5px;
  }
  .values {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }
  @media (max-width: 500px) {
    .line {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
