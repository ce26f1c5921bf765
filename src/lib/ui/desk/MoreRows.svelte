<script lang="ts">
  import type { DeskRows, DeskTaskView } from '$lib/view/desk.ts';
  import DeskRow from './DeskRow.svelte';
  import type { Placer } from './placer.svelte.ts';

  /** Tasks of one part, read when it is opened, and again when something has changed. */
  interface Props {
    /** Which, as the address of rows names it. */
    query: string;
    label: string;
    placer: Placer | null;
    read: (query: string, from: number) => Promise<DeskRows | null>;
    /** Asks the owner of a task about it. */
    onask?: (taskId: number) => void;
    /** Changes whenever the page was read anew. */
    stamp: unknown;
  }

  let { query, label, placer, read, onask, stamp }: Props = $props();
  let rows = $state.raw<readonly DeskTaskView[]>([]);
  let count = $state(0);
  let stage = $state<'reading' | 'there' | 'failed'>('reading');

  async function load(from: number, upTo: number) {
    const found = await read(query, from);
    if (!found) {
      stage = 'failed';
      return;
    }
    rows = from === 0 ? found.rows : [...rows, ...found.rows];
    count = found.count;
    stage = 'there';
    if (rows.length < upTo && found.rows.length > 0 && rows.length < count) await load(rows.length, upTo);
  }

  $effect(() => {
    void stamp;
    void query;
    void load(0, 0);
  });
</script>

{#if stage === 'failed'}
  <p class="fault" role="alert">
    These tasks could not be read. <button class="button" onclick={() => void load(0, 0)}>Try again</button>
  </p>
{:else if stage === 'reading' && rows.length === 0}
  <p class="quiet" aria-live="polite">Reading…</p>
{:else}
  <ul aria-label={label}>
    {#each rows as task (task.id)}<DeskRow {task} {placer} {onask} />{/each}
  </ul>
  {#if rows.length === 0}<p class="quiet">Nothing stands here.</p>{/if}
  {#if count > rows.length}
    <button class="button plain" onclick={() => void load(rows.length, 0)}
      >Show more ({count - rows.length} left)</button
    >
  {/if}
{/if}
