<script lang="ts">
  import { tick } from 'svelte';
  import { dndzone, TRIGGERS, type DndEvent } from 'svelte-dnd-action';
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

  /** Whether the library carries a card by keyboard: then the arrows are its own. */
  let carrying = false;
  /** The card that went to another column by an arrow, and keeps the keyboard there. */
  let followed: { id: number; statusId: number } | null = null;
  let board: HTMLElement;

  $effect(() => {
    const now = columns;
    if (!followed) return;
    const { id, statusId } = followed;
    const arrived = now.find((column) => column.statusId === statusId)?.rows.some((row) => row.id === id);
    if (!arrived) return;
    followed = null;
    void tick().then(() => board.querySelector<HTMLElement>(`[data-card="${id}"]`)?.focus());
  });

  function onkeydown(event: KeyboardEvent, index: number, row: TaskRowView) {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (step === undefined || carrying || event.target !== event.currentTarget || !row.editable) return;
    const to = columns[index + step];
    if (!to) return;
    event.preventDefault();
    followed = { id: row.id, statusId: to.statusId };
    onedit({ id: row.id, patch: { statusId: to.statusId }, base: { statusId: row.statusId } });
  }

  function consider(index: number, event: CustomEvent<DndEvent<TaskRowView>>) {
    carrying = event.detail.info.trigger !== TRIGGERS.DRAG_STOPPED && event.type === 'consider';
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

<p class="quiet hint no-print">
  A card moves to the column beside it by ← and →, or is carried: Enter takes it and puts it down.
</p>
<div class="columns" bind:this={board}>
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
          <!-- The library makes it a button. -->
          <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
          <li
            aria-label={row.name}
            data-card={row.id}
            class:open={row.id === openId}
            onkeydown={(event) => onkeydown(event, index, row)}
          >
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
  /* Said to whoever is at a card by keyboard. */
  .hint {
    visibility: hidden;
  }
  .hint:has(+ .columns li:focus-visible) {
    visibility: visible;
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
