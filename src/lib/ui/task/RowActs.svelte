<script lang="ts">
  import type { TaskRowView } from '$lib/view/tasks.ts';
  import { actsOfRow, type TaskAct } from './task-acts.ts';

  /**
   * What is most often done with a task of the list, beside its name while somebody points at the row, wiped over it, or is at it by keyboard.
   * The one that is wanted most stands there at once, the others behind “More”: the name must stay to be pressed. Every one has its key as well.
   */
  let { row, onact }: { row: TaskRowView; onact: (act: TaskAct) => void } = $props();

  /** So many stand there at once. */
  const FIRST = 1;
  let all = $state(false);
  const acts = $derived(actsOfRow(row));
  const shown = $derived(all ? acts : acts.slice(0, FIRST));
</script>

{#if acts.length > 0}
  <span class="acts no-print" class:all>
    {#each shown as { name, words } (name)}
      <button tabindex="-1" aria-label="{words}: {row.name}" onclick={() => onact(name)}>{words}</button>
    {/each}
    {#if !all && acts.length > FIRST}
      <button tabindex="-1" aria-label="More to do with {row.name}" onclick={() => (all = true)}>More</button>
    {/if}
  </span>
{/if}

<style>
  .acts {
    position: absolute;
    right: 0;
    bottom: 0;
    white-space: nowrap;
    border-radius: 5px;
    background: var(--sheet);
    box-shadow: 0 1px 4px rgb(0 0 0 / 14%);
  }
  .all {
    /* Over the cells beside it, so that the name can still be read. */
    left: 0;
    right: auto;
    top: 100%;
    bottom: auto;
    z-index: 2;
    padding: 3px 6px;
  }
  button {
    padding: 0 5px;
    min-height: 24px;
    color: var(--brass-ink);
    font-size: 12.5px;
    cursor: pointer;
  }
  button:hover {
    text-decoration: underline;
  }
  @media (pointer: coarse), (max-width: 640px) {
    .acts {
      position: static;
      display: flex;
      flex-wrap: wrap;
      box-shadow: none;
      background: none;
      padding: 0;
    }
    button {
      min-height: 44px;
      padding: 0 9px;
    }
  }
</style>
