<script lang="ts">
  import FastForward from '@lucide/svelte/icons/fast-forward';
  import type { FrameView } from '$lib/view/frame.ts';
  import type { ClockMove } from './clock-move.ts';

  interface Props {
    clock: FrameView['clock'];
    moving: boolean;
    onmove: (move: ClockMove) => void;
  }

  let { clock, moving, onmove }: Props = $props();

  /** What opens under the button is loaded when it is first pressed: most pages are read without it. */
  const load = () => import('./ClockPanel.svelte');
  let panel = $state<Awaited<ReturnType<typeof load>>['default']>();
</script>

{#if panel}
  {@const Panel = panel}
  <Panel {clock} {moving} {onmove} />
{:else}
  <button
    class="button"
    disabled={moving}
    aria-haspopup="dialog"
    onclick={async () => (panel = (await load()).default)}
  >
    <FastForward size={16} strokeWidth={1.75} /><span class="phone-sr"
      >{moving ? 'Moving the clock…' : 'Move clock'}</span
    >
  </button>
{/if}
