<script lang="ts">
  import { Toast } from '@skeletonlabs/skeleton-svelte';
  import X from '@lucide/svelte/icons/x';
  import { toaster } from './notices.svelte.ts';
</script>

<Toast.Group {toaster}>
  {#snippet children(toast)}
    <Toast {toast}>
      {#snippet element(attributes)}
        <!-- Its buttons are two stops on the way; the notice itself is none, for it does nothing. -->
        <div {...attributes} tabindex="-1" class="notice {toast.type}">
          <Toast.Message>
            <Toast.Title>{toast.title}</Toast.Title>
            {#if toast.description}<Toast.Description>{toast.description}</Toast.Description>{/if}
          </Toast.Message>
          {#if toast.action}<Toast.ActionTrigger class="button">{toast.action.label}</Toast.ActionTrigger
            >{/if}
          <Toast.CloseTrigger class="close" aria-label="Close"><X size={15} /></Toast.CloseTrigger>
        </div>
      {/snippet}
    </Toast>
  {/snippet}
</Toast.Group>

<style>
  .notice {
    /* Where each stands is reckoned for it: one above the other, the newest at the foot. */
    translate: var(--x) var(--y);
    z-index: var(--z-index);
    opacity: var(--opacity);
    display: flex;
    align-items: center;
    gap: 12px;
    min-width: 280px;
    max-width: 440px;
    padding: 10px 12px 10px 14px;
    border-radius: 9px;
    border: 1px solid var(--line);
    border-left: 3px solid var(--sea);
    background: var(--sheet);
    box-shadow: 0 6px 22px rgb(27 43 51 / 0.16);
    font-size: 13px;
  }
  .notice.error {
    border-left-color: var(--brick);
  }
  .notice.info {
    border-left-color: var(--slate);
  }
  .notice :global([data-part='message']) {
    flex: 1;
  }
  .notice :global(.close) {
    color: var(--ink-3);
    display: grid;
    padding: 4px;
  }
</style>
