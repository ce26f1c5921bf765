<script lang="ts">
  import { autoUpdate, computePosition, flip, offset, shift } from '@floating-ui/dom';
  import type { Snippet } from 'svelte';

  /** What stands below a field while somebody is in it, above all else of the page. */
  interface Props {
    field: HTMLElement;
    /** Whether it can be pressed; else presses go to what lies below it. */
    pressed?: boolean;
    children: Snippet;
  }

  let { field, pressed = false, children }: Props = $props();
  let panel: HTMLElement;

  $effect(() => {
    // The place comes a moment later: the panel may have gone from the page by then.
    const below = panel;
    below.showPopover();
    return autoUpdate(field, below, () => {
      void computePosition(field, below, {
        strategy: 'fixed',
        placement: 'bottom-start',
        middleware: [offset(4), flip(), shift({ padding: 8 })]
      }).then(({ x, y }) => {
        below.style.left = `${x}px`;
        below.style.top = `${y}px`;
      });
    });
  });
</script>

<div bind:this={panel} class="below" class:pressed popover="manual">{@render children()}</div>

<style>
  .below {
    position: fixed;
    inset: auto;
    margin: 0;
    width: max-content;
    max-width: min(420px, calc(100vw - 16px));
    padding: 5px 9px;
    border: 1px solid var(--line);
    border-radius: 7px;
    background: var(--sheet);
    color: var(--ink);
    font-size: 12.5px;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
    pointer-events: none;
  }
  .pressed {
    pointer-events: auto;
  }
</style>
