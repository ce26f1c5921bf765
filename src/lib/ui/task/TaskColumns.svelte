<script lang="ts">
  import { dndzone, type DndEvent } from 'svelte-dnd-action';
  import type { ColumnsView } from '$lib/view/task-shapes.ts';
  import type { TaskRowView } from '$lib/view/tasks.ts';
  import type { CellEdit } from './cell-edit.ts';
  import TaskCard from './TaskCard.svelte';

  /** The list as columns by status; a card that is carried into another takes that status. */
  interface Props {
    view: ColumnsView;
    openId: number | null;
    hrefOf: (id: number) => string;
    onedit: (edit: CellEdit) => void;
  }

  let { view, openId, hrefOf, onedit }: Props = $props();
  // While something is carried, the columns are what the hand makes of them.
  let columns = $derived(view.columns.map((column) => ({ ...column, rows: [...column.rows] })));

  function consider(index: number, event: CustomEvent<DndEvent<TaskRowView>>) {
    columns[index] = { ...columns[index]!, rows: event.detail.items };
    columns = [...columns];
  }

  function finalize(index: number, event: CustomEvent<DndEvent<TaskRowView>>) {
    consider(index, event);
    const { statusId } = columns[index]!;
    const id = Number(event.detail.info.id);
    const moved = event.detail.items.find((row) => row.id === id);
    if (moved && moved.statusId !== statusId)
      onedit({ id, patch: { statusId }, base: { statusId: moved.statusId } });
  }
</script>

<div class="columns">
  {#each columns as column, index (column.statusId)}
    <section aria-label={column.name}>
      <h2>{column.name} <span class="quiet">{column.count.toLocaleString('en')}</span></h2>
      <p class="quiet phase">{column.phase}</p>
      <ul
        use:dndzone={{
          items: column.rows,
          flipDurationMs: 0,
          type: 'status',
          dropTargetStyle: { outline: '2px dashed var(--brass)' },
          zoneTabIndex: -1
        }}
        onconsider={(event) => consider(index, event)}
        onfinalize={(event) => finalize(index, event)}
      >
        {#each column.rows as row (row.id)}
          <li aria-label={row.name} class:open={row.id === openId}>
            <TaskCard {row} href={hrefOf(row.id)} showStatus={false} />
          </li>
        {/each}
      </ul>
      {#if column.count > column.rows.length}<p class="quiet">
          and {(column.count - column.rows.length).toLocaleString('en')} more
        </p>{/if}
    </section>
  {/each}
</div>

<style>
  .columns {
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(210px, 1fr);
    gap: 0 18px;
    overflow-x: auto;
    padding: 6px 0 12px;
  }
  section {
    border-left: 1px solid var(--line);
    padding-left: 12px;
    min-width: 0;
  }
  .phase {
    margin-bottom: 6px;
  }
  ul {
    min-height: 120px;
    display: grid;
    align-content: start;
    gap: 1px;
  }
  li {
    background: var(--paper);
    border-bottom: 1px solid var(--line-soft);
    cursor: grab;
  }
  li.open {
    background: var(--lit);
  }
</style>
