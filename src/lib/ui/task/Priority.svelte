<script lang="ts">
  /** Priority: 0 to 3 notches on a short bar, with its word. */
  let { priority, notches }: { priority: string; notches: number } = $props();
</script>

<span>
  <svg width="26" height="12" viewBox="0 0 26 12" aria-hidden="true">
    <path d="M1 10.5H25" stroke="var(--line)" stroke-width="1.5" />
    {#each [0, 1, 2] as i (i)}
      <path
        d="M{5 + i * 8} 10V3"
        stroke={i < notches ? 'var(--ink)' : 'var(--line)'}
        stroke-width={i < notches ? 2.6 : 1.2}
      />
    {/each}
  </svg>
  {priority}
</span>

<style>
  span {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    white-space: nowrap;
  }
</style>
