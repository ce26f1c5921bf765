<script lang="ts">
  import { Later } from '../later/later.svelte.ts';
  import Bell from '@lucide/svelte/icons/bell';
  import CircleHelp from '@lucide/svelte/icons/circle-question-mark';
  import Plus from '@lucide/svelte/icons/plus';
  import type { FrameView } from '$lib/view/frame.ts';
  import BehindBell from './BehindBell.svelte';
  import type { Bell as BellState } from './bell.svelte.ts';
  import type { ClockMove } from './clock-move.ts';
  import PersonMenu from './PersonMenu.svelte';
  import ClockControls from './ClockControls.svelte';

  interface Props {
    frame: FrameView;
    moving: boolean;
    onmove: (move: ClockMove) => void;
    onadd: () => void;
    /** Shows how the place works; null where there is nothing to say. */
    onguide: (() => void) | null;
    bell: BellState;
    /** “Next bell in 20 min · 3 people”, by the frame that is shown; null when nothing is planned. */
    nextBell: (frame: FrameView) => Promise<string | null>;
  }

  let { frame, moving, onmove, onadd, onguide, bell, nextBell }: Props = $props();
  // Whatever makes the frame be read again may have changed it.
  const next = new Later(() => nextBell(frame));
</script>

<header class="no-print">
  <button class="button" aria-keyshortcuts="n" onclick={onadd}
    ><Plus size={16} strokeWidth={1.75} /> <span class="phone-sr">Add a task</span></button
  >
  <div class="clock">
    <b>{frame.clock.text}</b>
    <span
      >{frame.clock.place}<span class="phone-sr">{frame.clock.movable ? ' · demo clock' : ''}</span>{frame
        .clock.running
        ? ''
        : ' · stopped'}</span
    >
  </div>
  {#if frame.clock.movable && frame.deeds.includes('move the demo clock')}<ClockControls
      clock={frame.clock}
      {moving}
      {onmove}
    />{/if}
  {#if next.value}
    <a class="next" href={frame.deeds.includes('watch the whole team') ? '/' : `/people/${frame.person.id}`}
      ><Bell size={16} strokeWidth={1.75} /> {next.value}</a
    >
  {/if}
  {#if onguide}<button class="guide" aria-label="How this works" title="How this works" onclick={onguide}
      ><CircleHelp size={17} strokeWidth={1.75} /></button
    >{/if}
  <BehindBell {bell} unseen={frame.unseen} />
  <span class="me"><PersonMenu person={frame.person} /></span>
</header>

<style>
  header {
    display: flex;
    align-items: center;
    flex-wrap: wrap;
    gap: 10px 14px;
    min-height: 46px;
    padding: 6px 22px;
    border-bottom: 1px solid var(--line);
  }
  .clock {
    margin-left: auto;
    text-align: right;
    line-height: 1.15;
  }
  .clock b {
    display: block;
    font:
      600 15px/1.15 'Bricolage Grotesque Variable',
      sans-serif;
  }
  .clock span {
    color: var(--ink-2);
    font-size: 12px;
  }
  /* On a phone the frame leaves the room to the page: the next bell stands on the Bell tower, words on buttons are kept for those who hear them. */
  @media (max-width: 640px) {
    header {
      flex-wrap: nowrap;
      padding-inline: 16px;
    }
    .clock {
      order: 0;
      margin-left: 0;
      white-space: nowrap;
    }
    .me {
      margin-left: auto;
    }
    .next {
      display: none !important;
    }
  }
  .next {
    display: flex;
    align-items: center;
    gap: 7px;
    background: var(--brass-wash);
    color: var(--brass-ink);
    border-radius: 7px;
    padding: 5px 10px;
    font-weight: 550;
    font-size: 13px;
    text-decoration: none;
  }
</style>
