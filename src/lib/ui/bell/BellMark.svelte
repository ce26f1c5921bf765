<script lang="ts">
  import type { BellKind } from '$lib/view/models.ts';

  /** A bell shaped by its kind. Centred on 0, 0 of the drawing it stands in. */
  let { kind }: { kind: BellKind } = $props();

  const bell =
    'M-4.6 3.2C-3.2 1.6-3.4-.4-3.1-1.6-2.6-3.8-1.3-4.8 0-4.8S2.6-3.8 3.1-1.6C3.4-.4 3.2 1.6 4.6 3.2ZM-1.4 4.6A1.5 1.3 0 0 0 1.4 4.6Z';
</script>

<g transform="scale(1.3)">
  {#if kind === 'reminder'}
    <path d={bell} fill="var(--sheet)" stroke="var(--brass-ink)" stroke-width="1.1" />
  {:else if kind === 'overdue'}
    <path d={bell} fill="var(--brick)" stroke="var(--brick)" />
  {:else if kind === 'rung'}
    <path d={bell} transform="translate(-1.4 -1.6) scale(0.86)" fill="var(--brick)" />
    <path d="M-5.6 5.4h4.6v-2.6h6.2" fill="none" stroke="var(--brick)" stroke-width="1.3" />
  {:else if kind === 'held'}
    <path
      d={bell}
      fill="var(--slate-wash)"
      stroke="var(--slate)"
      stroke-width="1.2"
      stroke-dasharray="2 1.4"
    />
  {:else if kind === 'late bell'}
    <path d={bell} fill="var(--sheet)" stroke="var(--brick)" stroke-width="1.2" />
    <path d="M0-4.8C-1.3-4.8-2.6-3.8-3.1-1.6-3.4-.4-3.2 1.6-4.6 3.2H0Z" fill="var(--brick)" />
  {:else}
    <path d={bell} fill="none" stroke="var(--ink-3)" />
    <path d="M-5 5 5-5" stroke="var(--ink-3)" stroke-width="1.2" />
  {/if}
</g>
