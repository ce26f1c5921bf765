<script lang="ts">
  import type { Snippet } from 'svelte';
  import TakeOut from './TakeOut.svelte';

  /** One line of a part: what it is about, and its values. */
  interface Props {
    label: string;
    /** What the values are together, for those who do not see them side by side. */
    group?: string;
    /** Takes the whole line out, at its right edge. */
    out?: { label: string; onclick: () => void };
    children: Snippet;
  }

  let { label, group, out, children }: Props = $props();
</script>

<div class="line">
  <span class="label">{label}</span>
  <div class="values" role={group ? 'group' : undefined} aria-label={group}>{@render children()}</div>
  {#if out}<TakeOut {...out} />{/if}
</div>

<style>
  .line {
    display: grid;
    grid-template-columns: 72px minmax(0, 1fr) auto;
    align-items: start;
    font-size: 13px;
  }
  .label {
    color: var(--ink-3);
    font-size: 12.5px;
    padding-top: 6px;
  }
  .values {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 6px;
    align-items: center;
    min-height: 30px;
  }
  .values :global(.time) {
    width: 60px;
    text-align: center;
  }
  @media (max-width: 500px) {
    .line {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
