<script lang="ts">
  import { Progress } from '@skeletonlabs/skeleton-svelte';

  /** How far something that takes long has come. */
  interface Props {
    /** From 0 to 1; null where only that it goes on is known. */
    part: number | null;
    label: string;
  }

  let { part, label }: Props = $props();
  const percent = $derived(part === null ? null : Math.round(part * 100));
</script>

<Progress value={percent}>
  {#snippet element(attributes)}
    <div {...attributes} class="progress">
      <Progress.Track class="track" aria-label={label}><Progress.Range class="range" /></Progress.Track>
      {#if percent !== null}<span class="quiet" aria-hidden="true">{percent} %</span>{/if}
    </div>
  {/snippet}
</Progress>

<style>
  .progress {
    display: inline-flex;
    align-items: center;
    gap: 8px;
    width: min(320px, 100%);
  }
  .progress :global(.track) {
    flex: 1;
    height: 8px;
    overflow: hidden;
    border-radius: 4px;
    border: 1px solid var(--lit-edge);
    background: var(--lit);
  }
  .progress :global(.range) {
    height: 100%;
    background: var(--brass);
  }
  /* Nobody knows how long: a part of it is full, and it does not pretend to move. */
  .progress :global(.range[data-state='indeterminate']) {
    width: 30%;
  }
  @media (forced-colors: active) {
    .progress :global(.range) {
      background: Highlight;
      forced-color-adjust: none;
    }
  }
</style>
