<script lang="ts">
  import { scaleUtc } from 'd3-scale';
  import { MS_PER_DAY } from '$lib/core/time/day.ts';
  import { bellWord } from '$lib/view/bell-words.ts';
  import { LINE_DAYS, type BellTicks } from '$lib/view/bell-series.ts';
  import type { BellView } from '$lib/view/models.ts';
  import BellMark from './BellMark.svelte';

  /** A task's own line of bells: what has rung, now, and what is to come. A table below says the same. */
  interface Props {
    past: readonly BellView[];
    coming: readonly BellView[];
    /** What is in no table, drawn small. */
    ticks?: readonly BellTicks[];
    /** How many of those lie beyond the line. */
    beyond?: number;
    nowMs: number;
    /** The due moment, where it has one. */
    dueMs: number | null;
    onpress?: (key: string) => void;
  }

  let { past, coming, ticks = [], beyond = 0, nowMs, dueMs, onpress }: Props = $props();
  const WIDTH = 640;
  const EDGE = 14;

  const all = $derived([...past, ...coming]);
  const times = $derived([
    ...[nowMs, ...(dueMs === null ? [] : [dueMs])],
    ...all.map(({ time }) => time.atMs),
    ...ticks.flatMap(({ atMs }) => atMs)
  ]);
  const from = $derived(Math.max(Math.min(...times) - MS_PER_DAY, nowMs - LINE_DAYS.back * MS_PER_DAY));
  const until = $derived(
    Math.min(Math.max(...times, nowMs + 3 * MS_PER_DAY) + MS_PER_DAY, nowMs + LINE_DAYS.ahead * MS_PER_DAY)
  );
  const x = $derived(scaleUtc([from, until], [EDGE, WIDTH - EDGE]));
  /** Marks that would lie on each other stand above each other. */
  const marks = $derived.by(() => {
    const last = [-99, -99, -99];
    return all
      .filter(({ time }) => time.atMs >= from && time.atMs <= until)
      .sort((a, b) => a.time.atMs - b.time.atMs)
      .map((bell) => {
        const at = x(bell.time.atMs);
        let row = 0;
        while (row < 2 && at - last[row]! < 15) row++;
        last[row] = at;
        return { bell, at, y: 24 - row * 15 };
      });
  });
  const later = $derived(beyond + all.filter(({ time }) => time.atMs > until).length);
  /** The mark that somebody points at: only that one carries its words a second time. */
  let pointed = $state<string | null>(null);
  /** The ticks as one path for each kind of them; those that fall on the same spot are one. */
  const tickPaths = $derived(
    ticks.map(({ late, atMs }) => {
      const places = new Set(atMs.map((at) => Math.round(x(at))));
      return { late, d: [...places].map((place) => `M${place} 26v6`).join('') };
    })
  );
  const about = (bell: BellView) =>
    `${bellWord(bell.kind)}, ${bell.time.there} ${bell.time.place}, ${bell.readerName}, ${bell.ruleName}`;
</script>

<figure>
  <svg viewBox="0 0 {WIDTH} 48" role="group" aria-label="Bells of this task over time">
    <path d="M{EDGE} 34H{x(nowMs)}" stroke="var(--line)" stroke-width="2" />
    <path d="M{x(nowMs)} 34H{WIDTH - EDGE}" stroke="var(--lit-edge)" stroke-width="2" />
    {#if dueMs !== null && dueMs >= from && dueMs <= until}
      <path d="M{x(dueMs)} 27V41" stroke="var(--ink)" stroke-width="1.6" />
      <text x={x(dueMs)} y="47" text-anchor="middle">due</text>
    {/if}
    <path d="M{x(nowMs)} 6V41" stroke="var(--brass)" stroke-width="1.4" stroke-dasharray="3 2" />
    <text x={x(nowMs)} y="47" text-anchor="middle" class="now">now</text>
    {#each tickPaths as { late, d } (late)}<path {d} class="tick" class:late />{/each}
    {#each marks as { bell, at, y } (bell.key)}
      <g
        role="button"
        tabindex="0"
        aria-label={about(bell)}
        transform="translate({Math.round(at)} {y})"
        onpointerenter={() => (pointed = bell.key)}
        onclick={() => onpress?.(bell.key)}
        onkeydown={(event) => {
          if (event.key !== 'Enter' && event.key !== ' ') return;
          event.preventDefault();
          onpress?.(bell.key);
        }}
      >
        {#if pointed === bell.key}<title>{about(bell)}</title>{/if}
        <rect x="-9" y="-9" width="18" height="18" fill="transparent" />
        <BellMark kind={bell.kind} />
      </g>
    {/each}
  </svg>
  {#if later > 0}<figcaption class="quiet">{later} later than shown</figcaption>{/if}
</figure>

<style>
  svg {
    width: 100%;
    height: auto;
    overflow: visible;
  }
  text {
    fill: var(--ink-2);
    font-size: 10.5px;
  }
  .tick {
    stroke: var(--ink-3);
    stroke-width: 1.6;
  }
  .late {
    stroke: var(--brick);
  }
  .now {
    fill: var(--brass-ink);
  }
  g {
    cursor: pointer;
  }
</style>
