<script lang="ts">
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';
  import type { Snippet } from 'svelte';

  /** A sheet over the page: it keeps the keyboard, Escape closes it, and what opened it has the keyboard again. */
  interface Props {
    /** What it is, for those who do not see it. */
    label: string;
    open: boolean;
    onclose: () => void;
    /** Whether it asks something that must be answered. */
    asks?: boolean;
    /** Where the keyboard is first. */
    first?: () => HTMLElement | null;
    children: Snippet;
  }

  let { label, open, onclose, asks = false, first, children }: Props = $props();
</script>

<Dialog
  {open}
  role={asks ? 'alertdialog' : 'dialog'}
  aria-label={label}
  closeOnInteractOutside={!asks}
  initialFocusEl={first}
  onOpenChange={(details) => {
    if (!details.open) onclose();
  }}
>
  <Portal>
    <Dialog.Backdrop class="dialog-behind" />
    <Dialog.Positioner class="dialog-place">
      <Dialog.Content class="sheet dialog-sheet">{@render children()}</Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>

<style>
  :global(.dialog-behind) {
    position: fixed;
    inset: 0;
    z-index: 50;
    background: rgb(27 43 51 / 30%);
  }
  :global(.dialog-place) {
    position: fixed;
    inset: 0;
    z-index: 51;
    display: flex;
    justify-content: center;
    align-items: flex-start;
    padding: 11vh 16px 16px;
  }
  :global(.dialog-sheet) {
    width: min(640px, 100%);
    max-height: 80vh;
    overflow-y: auto;
    padding: 18px 20px;
    color: var(--ink);
    box-shadow: 0 18px 60px rgb(0 0 0 / 24%);
  }
</style>
