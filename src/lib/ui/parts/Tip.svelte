<script lang="ts">
  import { Portal, Tooltip } from '@skeletonlabs/skeleton-svelte';
  import type { Snippet } from 'svelte';
  import type { HTMLButtonAttributes } from 'svelte/elements';

  /** Words for a button that is only a drawing, shown when somebody points at it or comes to it by keyboard. */
  interface Props {
    words: string;
    /** The button; it takes what it is given. */
    button: Snippet<[HTMLButtonAttributes]>;
  }

  let { words, button }: Props = $props();
</script>

<Tooltip openDelay={350} positioning={{ placement: 'bottom' }}>
  <Tooltip.Trigger element={button} />
  <Portal>
    <Tooltip.Positioner class="z-40">
      <Tooltip.Content>
        {#snippet element(attributes)}<div {...attributes} class="tip">{words}</div>{/snippet}
      </Tooltip.Content>
    </Tooltip.Positioner>
  </Portal>
</Tooltip>

<style>
  .tip {
    padding: 3px 8px;
    border-radius: 5px;
    background: var(--ink);
    color: var(--paper);
    font-size: 12.5px;
  }
</style>
