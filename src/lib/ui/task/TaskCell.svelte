<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { ColumnKey } from '$lib/view/task-columns.ts';
  import type { TaskChoices, TaskRowView } from '$lib/view/tasks.ts';
  import type { CellEdit } from './cell-edit.ts';
  import LaterDateField from '../form/date/LaterDateField.svelte';
  import Priority from './Priority.svelte';

  /** One cell of the list. Owner, due date, status and priority are changed in place. */
  interface Props {
    row: TaskRowView;
    column: ColumnKey;
    choices: TaskChoices;
    editing: boolean;
    onbegin: () => void;
    /** With the change; null when it was left as it is. */
    onend: (edit: CellEdit | null) => void;
  }

  let { row, column, choices, editing, onbegin, onend }: Props = $props();
  const PRIORITIES = ['low', 'ordinary', 'high', 'pressing'] as const;
  const inPlace = $derived(['owner', 'due', 'status', 'priority'].includes(column) && row.editable);

  const focus = (element: HTMLElement) => {
    element.focus();
    if (element instanceof HTMLInputElement && 'showPicker' in element) element.select?.();
  };

  function change(value: string) {
    const { id } = row;
    if (column === 'owner')
      onend({ id, patch: { ownerId: Number(value) || null }, base: { ownerId: row.ownerId } });
    else if (column === 'status')
      onend({ id, patch: { statusId: Number(value) }, base: { statusId: row.statusId } });
    else if (column === 'priority')
      onend({ id, patch: { priority: value as TaskRowView['priority'] }, base: { priority: row.priority } });
    else
      onend({
        id,
        patch: { dueDate: value || null, dueTime: value ? row.dueTime : null },
        base: { dueDate: row.dueDate, dueTime: row.dueTime }
      });
  }
</script>

{#if editing && column === 'due'}
  <LaterDateField
    label="Due date of {row.name}"
    value={row.dueDate}
    of={{ task: { owner: row.ownerId, project: row.projectId } }}
    atOnce
    onchange={(day) => change(day ?? '')}
    onleave={() => onend(null)}
  />
{:else if editing && column === 'owner'}
  <select
    class="value"
    aria-label="Owner of {row.name}"
    value={row.ownerId === null ? '' : String(row.ownerId)}
    {@attach focus}
    onchange={(event) => change(event.currentTarget.value)}
    onblur={() => onend(null)}
  >
    <option value="">No owner</option>
    {#each choices.people as person (person.id)}<option value={String(person.id)}>{person.name}</option
      >{/each}
  </select>
{:else if editing && column === 'status'}
  <select
    class="value"
    aria-label="Status of {row.name}"
    value={String(row.statusId)}
    {@attach focus}
    onchange={(event) => change(event.currentTarget.value)}
    onblur={() => onend(null)}
  >
    {#each choices.statuses as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
  </select>
{:else if editing && column === 'priority'}
  <select
    class="value"
    aria-label="Priority of {row.name}"
    value={row.priority}
    {@attach focus}
    onchange={(event) => change(event.currentTarget.value)}
    onblur={() => onend(null)}
  >
    {#each PRIORITIES as priority (priority)}<option>{priority}</option>{/each}
  </select>
{:else if inPlace}
  <button
    type="button"
    class="in-place"
    tabindex="-1"
    onclick={onbegin}
    title="Change the {column === 'due' ? 'due date' : column}">{@render content()}</button
  >
{:else}{@render content()}{/if}

{#snippet content()}
  {#if column === 'owner'}
    {#if row.owner}{row.owner}{row.otherOwners > 0 ? ` and ${row.otherOwners}` : ''}
      <span class="quiet">{row.ownerPlace}</span>{:else}<span class="slate-text">no owner</span>{/if}
  {:else if column === 'due'}
    {#if row.due}{row.due}{#if row.dueHere}<span class="quiet block">{row.dueHere}</span>{/if}{:else}<span
        class="slate-text">no date</span
      >{/if}{#if row.slips > 0}<span class="quiet block">postponed {many(row.slips, 'time')}</span>{/if}
  {:else if column === 'left'}<span class:brick-text={row.overdue}>{row.left ?? ''}</span>
  {:else if column === 'status'}{row.status}
  {:else if column === 'priority'}<Priority priority={row.priority} />
  {:else if column === 'project'}{row.project ?? ''}
  {:else if column === 'section'}{row.section ?? ''}
  {:else if column === 'start'}{row.start ?? ''}
  {:else if column === 'tags'}{row.tags.join(', ')}
  {:else if column === 'percent'}{row.percent === null ? '' : `${row.percent} %`}
  {:else if column === 'bell'}{row.bell ?? ''}
  {:else if column === 'slips'}{row.slips || ''}
  {:else if column === 'created'}{row.created}
  {:else if column === 'touched'}{row.touched}{/if}
{/snippet}

<style>
  .in-place {
    text-align: left;
    cursor: pointer;
    border-radius: 5px;
    width: 100%;
  }
  .in-place:hover {
    box-shadow: 0 0 0 3px var(--lit-edge);
  }
  .block {
    display: block;
  }
  .value {
    width: 100%;
  }
</style>
