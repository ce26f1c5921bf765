<script lang="ts">
  import type { TaskRowView } from '$lib/view/tasks.ts';

  /** What is most often done with a task of the list, beside its name while somebody points at the row or is at it by keyboard. */
  let { row, onfinish, oncomment }: { row: TaskRowView; onfinish: () => void; oncomment: () => void } =
    $props();
</script>

{#if row.editable && row.setAside === null}
  <span class="acts no-print">
    {#if row.phase !== 'finished' && row.phase !== 'closed'}<button
        tabindex="-1"
        aria-label="Finish {row.name}"
        onclick={onfinish}>Finish</button
      >{/if}
    <button tabindex="-1" aria-label="Comment on {row.name}" onclick={oncomment}>Comment</button>
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
  button {
    padding: 0 5px;
    color: var(--brass-ink);
    font-size: 12.5px;
    cursor: pointer;
  }
  button:hover {
    text-decoration: underline;
  }
</style>
