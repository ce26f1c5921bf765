<script lang="ts">
  import type { DayMinutes, DeskBell } from '$lib/view/desk.ts';
  import { bellWord } from '$lib/view/bell-words.ts';
  import BellMark from '$lib/ui/bell/BellMark.svelte';
  import { marksOf, placeOn } from './bar-marks.ts';

  /** A day of a person as a bar of hours: when they work, when they are away, now, and their bells. A list beside it says the same. */
  interface Props {
    hours: readonly [from: number, until: number];
    lit: readonly DayMinutes[];
    away?: readonly DayMinutes[];
    bells?: readonly DeskBell[];
    now?: number | null;
    /** Thin, for a day on which nothing is. */
    thin?: boolean;
  }

  let { hours, lit, away = [], bells = [], now = null, thin = false }: Props = $props();
  const marks = $derived(marksOf(bells, hours));
  const part = ([from, until]: DayMinutes) => {
    const left = placeOn(from, hours);
    return `left:${left}%;width:${placeOn(until, hours) - left}%`;
  };
</script>

<span class="bar" class:thin aria-hidden="true">
  {#each lit as span (span[0])}<span class="lit" style={part(span)}></span>{/each}
  {#each away as span (span[0])}<span class="away" style={part(span)}></span>{/each}
  {#if now !== null}<span class="now" style="left:{placeOn(now, hours)}%"></span>{/if}
  {#each marks as mark (mark.key)}
    <svg viewBox="-9 -9 18 18" class="spot" class:rung={mark.rung} style="left:{mark.at}%"
      ><title>{bellWord(mark.kind)}: {mark.label}</title><BellMark kind={mark.kind} /></svg
    >{#if mark.count > 1}<span class="count" style="left:{mark.at}%">{mark.count}</span>{/if}
  {/each}
</span>

<style>
  .bar {
    position: relative;
    display: block;
    height: 16px;
    border-radius: 3px;
    background: var(--dim);
  }
  .thin {
    height: 4px;
    margin-block: 6px;
  }
  .lit,
  .away {
    position: absolute;
    inset-block: 0;
    background: var(--lit);
    box-shadow: inset 0 0 0 1px var(--lit-edge);
    border-radius: 2px;
  }
  .away {
    background: repeating-linear-gradient(135deg, var(--slate-wash) 0 5px, var(--dim) 5px 8px);
    box-shadow: none;
  }
  .now {
    position: absolute;
    inset-block: -3px;
    width: 2px;
    margin-left: -1px;
    background: var(--brass);
  }
  .spot {
    position: absolute;
    top: -1px;
    width: 18px;
    height: 18px;
    margin-left: -9px;
  }
  .rung {
    opacity: 0.62;
  }
  .count {
    position: absolute;
    top: 0;
    margin-left: 8px;
    font-size: 11px;
    line-height: 16px;
    font-weight: 600;
  }
  @media (forced-colors: active) {
    .lit {
      outline: 1px solid CanvasText;
    }
    .now {
      background: Highlight;
    }
  }
</style>
