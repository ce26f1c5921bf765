<script lang="ts">
  /** How the list is shown: as rows, columns or days. */
  let { shape, onchange }: { shape: string; onchange: (shape: string) => void } = $props();
  const SHAPES = ['rows', 'columns', 'days'] as const;
</script>

<span class="shapes no-print" role="group" aria-label="Shown as">
  <span class="quiet">shown as</span>
  {#each SHAPES as one (one)}
    <button type="button" aria-pressed={shape === one} onclick={() => onchange(one)}>{one}</button>
  {/each}
</span>

<style>
  .shapes {
    display: inline-flex;
    gap: 10px;
    align-items: baseline;
    font-size: 13px;
  }
  button {
    cursor: pointer;
    color: var(--ink-2);
  }
  button[aria-pressed='true'] {
    color: var(--ink);
    font-weight: 650;
    box-shadow: 0 2px 0 var(--brass);
  }
</style>
