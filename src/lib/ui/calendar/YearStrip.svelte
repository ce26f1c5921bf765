<script lang="ts">
  import type { YearStripView } from '$lib/view/calendars.ts';

  /** A year as a strip, a day a step: open days are lit, closed weekdays are gaps, and what differs stands out above them by its height. */
  let { strip }: { strip: YearStripView } = $props();

  const STEP = 1.2;
  const runs = $derived(strip.open.map(([from, length]) => ({ x: from * STEP, width: length * STEP })));
  const words = $derived(
    `${strip.year}: ${strip.special.map(({ words }) => words).join('; ') || 'no day differs from its weekday'}`
  );
</script>

<svg
  class="strip"
  viewBox="0 0 {strip.length * STEP} 22"
  role="img"
  aria-label={words}
  preserveAspectRatio="none"
>
  <rect x="0" y="7" width={strip.length * STEP} height="10" fill="var(--dim)" />
  {#each runs as { x, width } (x)}<rect {x} y="7" {width} height="10" fill="var(--lit)" />{/each}
  {#each strip.months as at (at)}<path
      d="M{at * STEP} 17V21"
      stroke="var(--ink-3)"
      stroke-width="0.6"
    />{/each}
  {#each strip.special as day (day.at)}
    <g>
      <title>{day.words}</title>
      <rect x={day.at * STEP - 2.5} y="0" width="6" height="22" fill="transparent" />
      {#if day.closed}<rect
          x={day.at * STEP - 0.2}
          y="1"
          width={STEP + 0.4}
          height="16"
          fill="var(--slate)"
        />
      {:else}<rect
          x={day.at * STEP - 0.2}
          y="8"
          width={STEP + 0.4}
          height="4.5"
          fill="var(--brass-ink)"
        />{/if}
    </g>
  {/each}
  {#if strip.today !== null}<path
      d="M{strip.today * STEP} 0V22"
      stroke="var(--brass)"
      stroke-width="1.4"
      stroke-dasharray="3 2"
    />{/if}
</svg>

<style>
  .strip {
    display: block;
    width: 100%;
    min-width: 220px;
    height: 22px;
  }
</style>
