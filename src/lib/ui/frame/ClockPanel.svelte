<script lang="ts">
  import { untrack } from 'svelte';
  import { Popover, Portal } from '@skeletonlabs/skeleton-svelte';
  import FastForward from '@lucide/svelte/icons/fast-forward';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import type { FrameView } from '$lib/view/frame.ts';
  import DateField from '../form/date/DateField.svelte';
  import type { ClockMove } from './clock-move.ts';

  /** Where the demo clock can be moved; it is there once somebody asks for it, and open then. */
  interface Props {
    clock: FrameView['clock'];
    moving: boolean;
    onmove: (move: ClockMove) => void;
  }

  let { clock, moving, onmove }: Props = $props();
  let open = $state(true);
  // What is typed stays, though the clock goes on meanwhile.
  let date = $state(untrack(() => clock.date));
  let time = $state(untrack(() => clock.time));

  function openChanged(next: boolean) {
    open = next;
    if (!next) return;
    date = clock.date;
    time = clock.time;
  }

  function go(move: ClockMove) {
    open = false;
    onmove(move);
  }
</script>

<!-- A form that has just been sent takes the focus back when its answer comes: that must not close what was opened meanwhile. -->
<Popover
  {open}
  onOpenChange={(details) => openChanged(details.open)}
  onFocusOutside={(event) => event.preventDefault()}
  positioning={{ placement: 'bottom-end' }}
>
  <Popover.Trigger class="button" disabled={moving}>
    <FastForward size={16} strokeWidth={1.75} /><span class="phone-sr"
      >{moving ? 'Moving the clock…' : 'Move clock'}</span
    >
  </Popover.Trigger>
  <Portal>
    <Popover.Positioner class="z-30">
      <Popover.Content>
        {#snippet element(attributes)}
          <div {...attributes} class="sheet panel">
            <Popover.Title class="title">Move the demo clock</Popover.Title>
            <p class="quiet">Every notice until then is sent, in order.</p>
            <button class="button" onclick={() => go({ to: 'next bell' })}>Move to the next bell</button>
            <button class="button" onclick={() => go({ to: 'hour' })}>Move 1 hour ahead</button>
            <button class="button" onclick={() => go({ to: 'tomorrow' })}
              >Move to tomorrow, 08:00 ({clock.place})</button
            >
            <form
              onsubmit={(event) => {
                event.preventDefault();
                go({ to: 'moment', date, time });
              }}
            >
              <label class="sr" for="clock-date">Date</label>
              <DateField
                live
                id="clock-date"
                required
                value={date}
                onchange={(typed) => (date = typed ?? '')}
                onfault={(typed) => (date = typed)}
              />
              <label class="sr" for="clock-time">Time in {clock.place}</label>
              <TimeField
                id="clock-time"
                class="value time"
                required
                value={time}
                onchange={(typed) => (time = typed ?? '')}
              />
              <button class="button main">Move the clock</button>
            </form>
            <button class="button plain" onclick={() => go({ running: !clock.running })}>
              {clock.running ? 'Stop the clock' : 'Start the clock'}
            </button>
          </div>
        {/snippet}
      </Popover.Content>
    </Popover.Positioner>
  </Portal>
</Popover>

<style>
  .panel {
    display: grid;
    gap: 8px;
    padding: 14px 16px 12px;
    width: 320px;
    box-shadow: 0 8px 28px rgb(27 43 51 / 0.18);
  }
  .panel :global(.title) {
    font:
      650 15px 'Bricolage Grotesque Variable',
      sans-serif;
  }
  form {
    display: flex;
    gap: 6px;
  }
  form .value {
    min-width: 0;
  }
  form :global(.time) {
    width: 68px;
  }
</style>
