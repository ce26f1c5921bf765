<script lang="ts">
  import type { OverdueBand } from '$lib/view/tower.ts';

  /** What is overdue by age: each band in words, with a bar as long as it has tasks, leading to its list. */
  let { bands }: { bands: readonly OverdueBand[] } = $props();

  const most = $derived(Math.max(1, ...bands.map(({ count }) => count)));
  const wordsOf = (band: string) => (band === 'under 1' ? 'under 1 day' : `${band} days`);
</script>

<ul aria-label="Overdue by working days">
  {#each bands as { band, count } (band)}
    <li>
      {#if count > 0}<a href="/tasks?show=overdue&band={encodeURIComponent(band)}">{wordsOf(band)}</a
        >{:else}<span class="quiet">{wordsOf(band)}</span>{/if}
      <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true"
        ><rect width={(count / most) * 100} height="10" fill="var(--brick)" /></svg
      >
      <b class:quiet={count === 0}>{count}</b>
    </li>
  {/each}
</ul>

<style>
  li {
    display: grid;
    grid-template-columns: 6.2em minmax(40px, 1fr) 2.2em;
    gap: 8px;
    align-items: center;
    min-height: 24px;
    font-size: 13px;
  }
  svg {
    width: 100%;
    height: 12px;
  }
  b {
    font-weight: 600;
  }
</style>
