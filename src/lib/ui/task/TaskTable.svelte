<script lang="ts">
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import { flushSync, tick, untrack } from 'svelte';
  import { WindowVirtualizer, type WindowVirtualizerHandle } from 'virtua/svelte';
  import type { TaskChoices, TaskGroupView, TaskRowView } from '$lib/view/tasks.ts';
  import type { ColumnKey } from '$lib/view/task-columns.ts';
  import { TASK_COLUMNS } from '$lib/view/task-columns.ts';
  import TaskTableRow from './TaskTableRow.svelte';
  import { statusFor, type TaskAct } from './task-acts.ts';
  import type { CellEdit } from './cell-edit.ts';

  /** The list as rows, of which only those in view are drawn; more are asked for as one goes down. */
  interface Props {
    rows: readonly TaskRowView[];
    groups: readonly TaskGroupView[];
    columns: readonly ColumnKey[];
    /** Little room: the columns share it. */
    narrow: boolean;
    choices: TaskChoices;
    sort: string;
    down: boolean;
    /** Whether there are rows beyond these. */
    more: boolean;
    /** The task that stands beside the list. */
    openId: number | null;
    chosen: ReadonlySet<number>;
    /** The address of a task beside this list. */
    hrefOf: (id: number) => string;
    onmore: () => void;
    /** @param act what is to be done there at once */
    onopen: (id: number, act?: TaskAct) => void;
    onsort: (key: string) => void;
    onchoose: (ids: number[]) => void;
    onedit: (edit: CellEdit) => void;
  }

  let {
    rows,
    groups,
    columns,
    narrow,
    choices,
    sort,
    down,
    more,
    openId,
    chosen,
    hrefOf,
    onmore,
    onopen,
    onsort,
    onchoose,
    onedit
  }: Props = $props();

  type Item = { group: string; count: number } | { row: TaskRowView; index: number };
  const items = $derived.by(() => {
    const found: Item[] = [];
    let last: string | null = null;
    rows.forEach((row, index) => {
      if (row.group !== null && row.group !== last) {
        last = row.group;
        found.push({ group: last, count: groups.find(({ label }) => label === last)?.count ?? 0 });
      }
      found.push({ row, index });
    });
    return found;
  });
  const template = $derived(
    narrow
      ? `28px minmax(0, 2fr) ${columns.map(() => 'minmax(0, 1fr)').join(' ')}`
      : `28px minmax(180px, 2.4fr) ${columns.map((key) => TASK_COLUMNS[key].width).join(' ')}`
  );

  /** Rows that are drawn before the page's scripts have come: a screen of them, and less beside a task, where each takes two lines. */
  const SENT_AT_FIRST = untrack(() => (narrow ? 8 : 24));
  /** On paper every row that is here is drawn, not only those in view. */
  let printing = $state(false);

  let handle: WindowVirtualizerHandle | undefined = $state();
  let table: HTMLElement | undefined = $state();
  /** The row that the keyboard is at, and where a range began. */
  let cursor = $state(0);
  let anchor = 0;
  let editing: { id: number; column: ColumnKey } | null = $state(null);

  function reach() {
    const below = document.documentElement.scrollHeight - window.scrollY - window.innerHeight;
    if (more && below < 900) onmore();
  }

  async function focusRow(index: number) {
    cursor = Math.max(0, Math.min(index, rows.length - 1));
    const at = items.findIndex((item) => 'row' in item && item.index === cursor);
    const element = () => table?.querySelector<HTMLElement>(`[data-row="${cursor}"]`);
    if (!element()) handle?.scrollToIndex(at, { align: 'nearest' });
    await tick();
    requestAnimationFrame(() => {
      element()?.focus();
      element()?.scrollIntoView({ block: 'nearest' });
      reach();
    });
  }

  function range(from: number, to: number): number[] {
    return rows.slice(Math.min(from, to), Math.max(from, to) + 1).map(({ id }) => id);
  }

  function toggle(index: number, withRange: boolean) {
    const id = rows[index]!.id;
    if (withRange) onchoose([...new Set([...chosen, ...range(anchor, index)])]);
    else {
      onchoose(chosen.has(id) ? [...chosen].filter((one) => one !== id) : [...chosen, id]);
      anchor = index;
    }
    cursor = index;
  }

  const EDIT_KEYS: Record<string, ColumnKey> = { d: 'due', o: 'owner', s: 'status', p: 'priority' };

  /** Keys that open a task to do something with it. */
  const PART_KEYS: Record<string, TaskAct> = { c: 'comment', h: 'hush', z: 'snooze', a: 'acknowledge' };

  function onkeydown(event: KeyboardEvent) {
    const inControl = event.target instanceof HTMLElement && event.target.closest('input, select, button');
    if (event.key === 'Escape' && editing) {
      editing = null;
      void focusRow(cursor);
      return;
    }
    if (inControl && !(event.target as HTMLElement).matches('[type="checkbox"]')) return;
    const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
    const row = rows[cursor];
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      const next = cursor + (event.key === 'ArrowDown' ? 1 : -1);
      if (event.shiftKey && rows[next]) onchoose([...new Set([...chosen, ...range(anchor, next)])]);
      else anchor = Math.max(0, Math.min(next, rows.length - 1));
      void focusRow(next);
    } else if (event.key === 'Home' || event.key === 'End') {
      event.preventDefault();
      void focusRow(event.key === 'Home' ? 0 : rows.length - 1);
    } else if (event.key === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      onchoose(rows.map(({ id }) => id));
    } else if (event.key === 'Escape' && chosen.size > 0) onchoose([]);
    else if (!row || !plain) return;
    else if (event.key === 'Enter') {
      event.preventDefault();
      onopen(row.id);
    } else if (event.key === ' ') {
      event.preventDefault();
      toggle(cursor, event.shiftKey);
    } else if ((event.key === 'f' || event.key === 'u') && row.editable) {
      event.preventDefault();
      toStatus(row, event.key === 'f' ? 'finish' : 'stuck');
    } else if (PART_KEYS[event.key]) {
      event.preventDefault();
      onopen(row.id, PART_KEYS[event.key]);
    } else if (EDIT_KEYS[event.key] && columns.includes(EDIT_KEYS[event.key]!) && row.editable) {
      event.preventDefault();
      editing = { id: row.id, column: EDIT_KEYS[event.key]! };
    }
  }

  /** Does it in the list where that is all there is to it; else opens the task to do it there. */
  function does(row: TaskRowView, act: TaskAct) {
    if (act === 'finish' || act === 'open again' || act === 'stuck') toStatus(row, act);
    else if (act === 'change date' && columns.includes('due')) editing = { id: row.id, column: 'due' };
    else onopen(row.id, act);
  }

  function toStatus(row: TaskRowView, act: 'finish' | 'open again' | 'stuck') {
    const statusId = statusFor(act, choices.statuses);
    if (statusId !== null && statusId !== row.statusId)
      edit({ id: row.id, patch: { statusId }, base: { statusId: row.statusId } });
  }

  function edit(change: CellEdit | null) {
    editing = null;
    if (change) onedit(change);
    void focusRow(cursor);
  }
</script>

<svelte:window
  onbeforeprint={() => flushSync(() => (printing = true))}
  onafterprint={() => (printing = false)}
/>
<div
  class="table"
  role="grid"
  tabindex="-1"
  aria-label="Tasks"
  aria-rowcount={more ? -1 : rows.length + 1}
  aria-multiselectable="true"
  style:--template={template}
  style:--on-paper="minmax(0, 2.2fr) repeat({columns.length}, minmax(0, 1fr))"
  bind:this={table}
  {onkeydown}
>
  <div role="row" class="head" tabindex="-1">
    <span role="columnheader" class="sr-cell"
      ><input
        type="checkbox"
        aria-label="Choose all rows shown"
        checked={rows.length > 0 && chosen.size >= rows.length}
        indeterminate={chosen.size > 0 && chosen.size < rows.length}
        onchange={(event) => onchoose(event.currentTarget.checked ? rows.map(({ id }) => id) : [])}
      /></span
    >
    {@render header('name', 'Task')}
    {#each columns as key (key)}
      {#if TASK_COLUMNS[key].sort}{@render header(
          TASK_COLUMNS[key].sort,
          TASK_COLUMNS[key].label
        )}{:else}<span role="columnheader">{TASK_COLUMNS[key].label}</span>{/if}
    {/each}
  </div>
  {#if printing}
    {#each items as item ('row' in item ? item.row.id : `group ${item.group}`)}{@render line(item)}{/each}
  {:else}
    <WindowVirtualizer
      bind:this={handle}
      data={items}
      getKey={(item) => ('row' in item ? item.row.id : `group ${item.group}`)}
      itemSize={37}
      ssrCount={SENT_AT_FIRST}
      onscroll={reach}
    >
      {#snippet children(item: Item)}{@render line(item)}{/snippet}
    </WindowVirtualizer>
  {/if}
</div>
{#if more}<p class="only-print">These are the first {rows.length} tasks; the list has more.</p>
  <p class="more no-print"><button class="button" onclick={onmore}>Show more rows</button></p>{/if}

{#snippet line(item: Item)}
  {#if 'group' in item}
    <div role="row" class="group">
      <span role="gridcell" aria-colspan={columns.length + 2}
        >{item.group} <span class="quiet">{item.count.toLocaleString('en')}</span></span
      >
    </div>
  {:else}
    {@const { row, index } = item}
    <TaskTableRow
      {row}
      {index}
      {columns}
      {choices}
      href={hrefOf(row.id)}
      open={row.id === openId}
      chosen={chosen.has(row.id)}
      current={index === cursor}
      editing={editing?.id === row.id ? editing.column : null}
      onfocus={() => (cursor = index)}
      ontoggle={(withRange) => toggle(index, withRange)}
      onact={(act) => does(row, act)}
      onbegin={(column) => {
        cursor = index;
        editing = { id: row.id, column };
      }}
      onend={edit}
    />
  {/if}
{/snippet}

{#snippet header(key: string, label: string)}
  <span
    role="columnheader"
    aria-sort={sort === key ? (down ? 'descending' : 'ascending') : 'none'}
    class="sortable"
    ><button onclick={() => onsort(key)}
      >{label}{#if sort === key}{#if down}<ArrowDown size={12} />{:else}<ArrowUp
            size={12}
          />{/if}{/if}</button
    ></span
  >
{/snippet}

<style>
  .table:focus-visible {
    outline: none;
  }
  .head {
    display: grid;
    grid-template-columns: var(--template);
    column-gap: 10px;
    align-items: start;
    position: sticky;
    top: 0;
    z-index: 3;
    background: var(--paper);
    border-bottom: 1px solid var(--line);
    padding: 4px 0 5px;
    color: var(--ink-3);
    font-size: 12px;
    font-weight: 550;
  }
  .head button {
    display: inline-flex;
    gap: 3px;
    align-items: center;
    cursor: pointer;
  }
  .head button:hover {
    color: var(--ink);
  }
  .sr-cell {
    padding-left: 4px;
  }
  @media print {
    .head {
      grid-template-columns: var(--on-paper);
      position: static;
    }
    .sr-cell {
      display: none;
    }
  }
  @media (max-width: 640px) {
    .head {
      display: none;
    }
  }
  .group {
    padding: 14px 0 4px 4px;
    font:
      650 14px/1.25 'Bricolage Grotesque Variable',
      sans-serif;
    border-bottom: 1px solid var(--line);
  }
  .more {
    padding: 12px 0;
  }
</style>
