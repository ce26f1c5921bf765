<script lang="ts">
  import type { ColumnKey } from '$lib/view/task-columns.ts';
  import type { TaskChoices, TaskRowView } from '$lib/view/tasks.ts';
  import type { CellEdit } from './cell-edit.ts';
  import RowActs from './RowActs.svelte';
  import TaskCell from './TaskCell.svelte';
  import TaskMarks from './TaskMarks.svelte';
  import { letGoOfFocus } from '$lib/ui/frame/kept-focus.ts';
  import type { TaskAct } from './task-acts.ts';
  import { swiped } from './swiped.ts';

  /** A row of the list. */
  interface Props {
    row: TaskRowView;
    index: number;
    columns: readonly ColumnKey[];
    choices: TaskChoices;
    href: string;
    /** It stands beside the list. */
    open: boolean;
    chosen: boolean;
    /** The keyboard comes to this row. */
    current: boolean;
    /** The column that is being edited. */
    editing: ColumnKey | null;
    onfocus: () => void;
    ontoggle: (withRange: boolean) => void;
    onact: (act: TaskAct) => void;
    onbegin: (column: ColumnKey) => void;
    onend: (edit: CellEdit | null) => void;
  }

  let {
    row,
    index,
    columns,
    choices,
    href,
    open,
    chosen,
    current,
    editing,
    onfocus,
    ontoggle,
    onact,
    onbegin,
    onend
  }: Props = $props();

  /** Somebody points at it, is at it by keyboard, or wiped over it: its acts are drawn then, and for no other row. */
  let near = $state(false);
  let inside = $state(false);

  /** A finger to the left brings the acts, one to the right puts them away, with whatever of them had the focus. */
  function wiped(left: boolean) {
    near = inside = left;
    if (left || !(document.activeElement instanceof HTMLElement)) return;
    document.activeElement.blur();
    letGoOfFocus();
  }
</script>

<div
  role="row"
  class="row"
  class:open
  class:chosen
  aria-selected={chosen}
  tabindex={current ? 0 : -1}
  data-row={index}
  {onfocus}
  onfocusin={() => (inside = true)}
  onfocusout={() => (inside = false)}
  onpointerenter={({ pointerType }) => (near ||= pointerType === 'mouse')}
  onpointerleave={({ pointerType }) => (near &&= pointerType !== 'mouse')}
  use:swiped={wiped}
>
  <span role="gridcell" class="check"
    ><input
      type="checkbox"
      tabindex="-1"
      aria-label="Choose {row.name}"
      checked={chosen}
      onclick={(event) => ontoggle(event.shiftKey)}
    /></span
  >
  <span role="rowheader" class="name">
    <a {href} tabindex="-1" dir="auto" aria-current={open ? 'true' : undefined}>{row.name}</a><TaskMarks
      {row}
    />
    {#if near || inside}<RowActs {row} {onact} />{/if}
  </span>
  {#each columns as key (key)}
    <span role="gridcell" class="cell">
      <TaskCell {row} column={key} {choices} editing={editing === key} onbegin={() => onbegin(key)} {onend} />
    </span>
  {/each}
</div>

<style>
  .row {
    display: grid;
    grid-template-columns: var(--template);
    column-gap: 10px;
    align-items: start;
    border-bottom: 1px solid var(--line-soft);
    padding: 6px 0;
    min-height: 36px;
  }
  .row:hover {
    background: color-mix(in srgb, var(--lit) 55%, transparent);
  }
  .row.open {
    background: var(--lit);
    box-shadow: -3px 0 0 var(--brass);
  }
  .row.chosen {
    background: var(--brass-wash);
  }
  .row:focus-visible {
    outline: 2px solid var(--brass);
    outline-offset: -2px;
  }
  .check {
    padding: 1px 0 0 4px;
  }
  .name {
    position: relative;
    overflow-wrap: anywhere;
    min-width: 0;
  }
  .name a {
    font-weight: 500;
  }
  .cell {
    min-width: 0;
    overflow-wrap: anywhere;
    font-size: 13px;
  }
  @media print {
    .row {
      grid-template-columns: var(--on-paper);
      break-inside: avoid;
    }
    .check {
      display: none;
    }
  }
  @media screen and (max-width: 640px) {
    .row {
      grid-template-columns: 28px minmax(0, 1fr);
    }
    .name {
      grid-row: 1;
      grid-column: 2;
    }
    .cell {
      grid-column: 2;
    }
    .cell:empty {
      display: none;
    }
  }
</style>
