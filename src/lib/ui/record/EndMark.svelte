<script lang="ts">
  import type { EndMark } from '$lib/view/record.ts';

  /** How a notice ended, in words, with a shape of its own for each end, so that none has to be known by its colour. */
  let { mark, words }: { mark: EndMark; words: string } = $props();

  const COLOUR: Readonly<Record<EndMark, string>> = {
    waiting: 'var(--slate)',
    kept: 'var(--slate)',
    sending: 'var(--slate)',
    sent: 'var(--sea)',
    answered: 'var(--sea)',
    'in doubt': 'var(--brick)',
    failed: 'var(--brick)',
    'not sent': 'var(--ink-2)',
    withdrawn: 'var(--ink-2)'
  };
</script>

<span style:color={COLOUR[mark]}>
  <svg width="15" height="15" viewBox="-8 -8 16 16" aria-hidden="true">
    {#if mark === 'waiting'}
      <circle r="5" class="line" />
    {:else if mark === 'kept'}
      <path d="M-5.5-4.5H5.5M-5.5 0H5.5M-5.5 4.5H1.5" class="line" />
    {:else if mark === 'sending'}
      <circle r="5" class="line" />
      <path d="M0-5A5 5 0 0 1 0 5Z" class="full" />
    {:else if mark === 'sent'}
      <circle r="5.6" class="full" />
    {:else if mark === 'answered'}
      <path d="M-5.6 0A5.6 5.6 0 1 1 0 5.6H-6.4Q-5.2 4.4-5.3 2.4Z" class="full" />
      <path d="M-2.4 0H2.4" stroke="var(--sheet)" stroke-width="1.6" />
    {:else if mark === 'in doubt'}
      <circle r="5.2" class="line" stroke-dasharray="2.2 2" />
      <circle r="1.5" class="full" />
    {:else if mark === 'failed'}
      <path d="M0-6 6.4 5.4H-6.4Z" class="full" />
    {:else if mark === 'not sent'}
      <circle r="5.2" class="line" />
      <path d="M-3.7 3.7 3.7-3.7" class="line" />
    {:else}
      <path d="M4 0H-5M-1.4-3.8-5.2 0-1.4 3.8" class="line" />
    {/if}
  </svg>{words}</span
>

<style>
  span {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    font-weight: 550;
    white-space: nowrap;
  }
  svg {
    flex: none;
  }
  .line {
    fill: none;
    stroke: currentColor;
    stroke-width: 1.5;
  }
  .full {
    fill: currentColor;
  }
</style>
