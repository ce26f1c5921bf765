<script lang="ts">
  import type { DeskRows, DeskView } from '$lib/view/desk.ts';
  import MoreRows from './MoreRows.svelte';
  import type { Placer } from './placer.svelte.ts';

  /** What stands on no day: without a date, parked, finished. Each opens on a press. */
  interface Props {
    desk: DeskView;
    placer: Placer | null;
    read: (query: string, from: number) => Promise<DeskRows | null>;
  }

  let { desk, placer, read }: Props = $props();
  let open = $state<'undated' | 'parked' | 'finished' | null>(null);
  const parts = $derived([
    { key: 'undated', label: 'Undated', count: desk.undated, note: 'no rule can see these' },
    {
      key: 'parked',
      label: 'Parked',
      count: desk.parked.count,
      note: desk.parked.next ? `next look ${desk.parked.next}` : 'nothing waits to be looked at'
    },
    {
      key: 'finished',
      label: 'Finished, last look',
      count: desk.finished.count,
      note: 'still to be seen until closed'
    }
  ] as const);
</script>

<section aria-label="On no day">
  <p class="parts">
    {#each parts as { key, label, count, note } (key)}
      <button
        aria-expanded={open === key}
        disabled={count === 0}
        onclick={() => (open = open === key ? null : key)}
        ><b>{label}</b> {count} <span class="quiet">{count === 0 ? 'none' : note}</span></button
      >
    {/each}
  </p>
  {#if open}
    <div class="inside">
      {#key open}<MoreRows
          query="of={open}"
          label={parts.find(({ key }) => key === open)!.label}
          {placer}
          {read}
          stamp={desk}
        />{/key}
    </div>
  {/if}
</section>

<style>
  .parts {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 28px;
    padding-top: 6px;
    border-top: 1px solid var(--line);
  }
  button {
    min-height: 30px;
    cursor: pointer;
    text-align: left;
  }
  button:disabled {
    cursor: default;
    color: var(--ink-2);
  }
  button:not(:disabled):hover b {
    text-decoration: underline;
  }
  .inside {
    padding-left: 14px;
    border-left: 3px solid var(--lit-edge);
  }
  @media (max-width: 900px) {
    button {
      min-height: 44px;
    }
  }
</style>
