<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import type { BellKind, StripMark, StripView } from '$lib/view/models.ts';
  import BellMark from './BellMark.svelte';
  import { stripHours } from './strip-hours.ts';
  import BellWord from './BellWord.svelte';

  interface Props {
    strip: StripView;
    /** Says what the strip shows, for those who hear it. */
    label: string;
    /** A mark was pressed; null for one that is not in the list. */
    onopen: (bellKey: string | null) => void;
  }

  let { strip, label, onopen }: Props = $props();

  /** Narrower than this it is a list. */
  const NARROW = 440;
  const ROW = 28;
  const TOP = 24;
  /** Room for the number beside a mark at the end. */
  const END = 26;
  let width = $state(900);
  const NAMES = $derived(width < 700 ? 148 : 190);
  let shown = $state<string | null>(null);

  const x = $derived(
    scaleLinear()
      .domain([strip.fromMs, strip.untilMs])
      .range([NAMES, Math.max(width, 420) - END])
  );
  const height = $derived(TOP + strip.rows.length * ROW + 6);
  const kinds = $derived([
    ...new Set(strip.rows.flatMap(({ marks }) => marks.map(({ kind }) => kind)))
  ] as BellKind[]);

  interface Placed {
    mark: StripMark;
    at: number;
    /** Bells of one kind that fall on the same spot are drawn as one, with their number. */
    count: number;
    label: string;
  }

  function placed(marks: readonly StripMark[]): Placed[] {
    const found: Placed[] = [];
    for (const mark of [...marks].sort((a, b) => a.atMs - b.atMs || (a.kind < b.kind ? -1 : 1))) {
      const last = found[found.length - 1];
      const at = Math.max(
        x(mark.atMs),
        last && last.mark.kind !== mark.kind ? last.at + (last.count > 1 ? 20 : 13) : -Infinity
      );
      if (last && last.mark.kind === mark.kind && at - last.at < (last.count > 1 ? 22 : 13)) {
        last.count += mark.count;
        last.label = several(last.count, last.mark);
      } else found.push({ mark, at, count: mark.count, label: several(mark.count, mark) });
    }
    return found;
  }

  function several(count: number, { label, bellKey }: StripMark): string {
    const words = count > 1 ? `${count} bells, the first: ${label}` : label;
    return bellKey === null ? `${words} (further than the list below goes)` : words;
  }

  function arc(from: number, to: number, y: number): string {
    const lift = Math.min(15, 6 + Math.abs(to - from) / 14);
    return `M${from} ${y}C${from + (to - from) * 0.25} ${y - lift},${to - (to - from) * 0.25} ${y - lift},${to} ${y - 4}`;
  }

  function onkeydown(event: KeyboardEvent, mark: StripMark) {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    onopen(mark.bellKey);
  }
</script>

<div bind:clientWidth={width} class="strip">
  {#if strip.rows.length === 0}
    <p class="quiet empty">No bells in this period.</p>
  {:else}
    {#if width < NARROW}
      <ul class="hours" aria-label={label}>
        {#each stripHours(strip) as { fromMs, label: hours, people } (fromMs)}
          <li>
            <b>{hours}</b>
            <span
              >{#each people as { personId, name, count, bellKey }, i (personId)}{i > 0 ? ', ' : ''}<button
                  onclick={() => onopen(bellKey)}>{name}{count > 1 ? ` (${count})` : ''}</button
                >{/each}</span
            >
          </li>
        {/each}
      </ul>
    {:else}
      <svg width={Math.max(width, 420)} {height} role="group" aria-label={label}>
        {#each strip.ticks as tick (tick.atMs)}
          <line x1={x(tick.atMs)} x2={x(tick.atMs)} y1={TOP - 4} y2={height - 6} stroke="var(--line-soft)" />
          <text x={x(tick.atMs)} y="12" text-anchor="middle" class="tick">{tick.label}</text>
        {/each}
        {#each strip.rows as row, i (row.personId)}
          {@const y = TOP + i * ROW}
          <text x="0" y={y + 18} class="name">{row.name}</text>
          <text x={NAMES - 10} y={y + 18} text-anchor="end" class="tick">{row.localTime}</text>
          <rect
            x={NAMES}
            y={y + 5}
            width={Math.max(0, x(strip.untilMs) - NAMES)}
            height="17"
            rx="3"
            fill="var(--dim)"
          />
          {#each row.lit as [from, until] (from)}
            <rect
              x={x(from)}
              y={y + 5}
              width={x(until) - x(from)}
              height="17"
              rx="3"
              fill="var(--lit)"
              stroke="var(--lit-edge)"
            />
          {/each}
          {#each placed(row.marks) as { mark, at, count, label: words } (mark)}
            {#if mark.fromMs !== null}
              <path
                d={arc(x(mark.fromMs), at, y + 13.5)}
                fill="none"
                stroke="var(--slate)"
                stroke-dasharray="3 3"
              />
              <circle
                cx={x(mark.fromMs)}
                cy={y + 13.5}
                r="3.5"
                fill="var(--paper)"
                stroke="var(--slate)"
                stroke-width="1.5"
              />
            {/if}
            <g
              class="mark"
              transform="translate({at} {y + 13.5})"
              role="button"
              tabindex="0"
              aria-label={words}
              onmouseenter={() => (shown = words)}
              onfocus={() => (shown = words)}
              onmouseleave={() => (shown = null)}
              onblur={() => (shown = null)}
              onclick={() => onopen(mark.bellKey)}
              onkeydown={(event) => onkeydown(event, mark)}
            >
              <rect x="-12" y="-12" width="24" height="24" fill="transparent" />
              <BellMark kind={mark.kind} />
              {#if count > 1}<text x="8" y="4" class="count">{count}</text>{/if}
            </g>
          {/each}
        {/each}
        <line
          x1={x(strip.nowMs)}
          x2={x(strip.nowMs)}
          y1="16"
          y2={height - 6}
          stroke="var(--brass)"
          stroke-width="1.75"
          pointer-events="none"
        />
        <path d="M{x(strip.nowMs) - 5} 15h10l-5 6z" fill="var(--brass)" pointer-events="none" />
      </svg>
    {/if}
    <p class="foot">
      <span class="said" class:sr={width < NARROW}
        >{shown ?? 'Point at a bell or press Tab to read it. Press Enter to open its row.'}</span
      >
      <span class="legend"
        >{#each kinds as kind (kind)}<BellWord {kind} />{/each}</span
      >
    </p>
  {/if}
</div>

<style>
  .strip {
    overflow-x: auto;
  }
  svg {
    display: block;
  }
  .hours {
    display: grid;
    gap: 2px;
  }
  .hours li {
    display: grid;
    grid-template-columns: 84px minmax(0, 1fr);
    padding: 5px 0;
    border-bottom: 1px solid var(--line-soft);
  }
  .hours button {
    min-height: 24px;
    text-decoration: underline;
    text-decoration-color: var(--line);
    text-underline-offset: 3px;
    cursor: pointer;
  }
  .empty {
    padding: 12px 0;
  }
  .tick {
    font-size: 11px;
    fill: var(--ink-3);
  }
  .name {
    font-size: 13px;
    fill: var(--ink);
  }
  .count {
    font-size: 11px;
    font-weight: 600;
    fill: var(--ink-2);
  }
  .mark {
    cursor: pointer;
    outline: none;
  }
  .mark:focus-visible rect {
    stroke: var(--brass);
    stroke-width: 2;
    rx: 5px;
  }
  .foot {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
    justify-content: space-between;
    color: var(--ink-2);
    font-size: 12.5px;
    padding-top: 4px;
  }
  .legend {
    display: flex;
    gap: 14px;
  }
</style>
