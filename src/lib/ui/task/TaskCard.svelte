<script lang="ts">
  import type { TaskRowView } from '$lib/view/tasks.ts';
  import Priority from './Priority.svelte';
  import TaskMarks from './TaskMarks.svelte';

  /** Where there is little room, a priority is shown only where it matters more than usual. */
  const UPPER = ['high', 'pressing'];

  /** A task where there is little room. */
  let {
    row,
    href,
    showStatus = true,
    small = false
  }: { row: TaskRowView; href: string; showStatus?: boolean; small?: boolean } = $props();
</script>

<div class="card" class:small>
  <a {href} dir="auto" draggable="false">{row.name}</a><TaskMarks {row} quiet={small} />
  {#if small}
    <p class="quiet">
      {row.dueTime ?? ''}
      {row.owner ?? 'no owner'}<span class="brick-text">{row.overdue ? ' · overdue' : ''}</span>
    </p>
  {:else}
    <p class="quiet">
      {row.owner ?? 'no owner'}{#if showStatus}
        · {row.status}{/if}
    </p>
    <p class="quiet foot">
      <span class:brick-text={row.overdue}>{row.due ?? 'no date'}{row.left ? ` · ${row.left}` : ''}</span>
      {#if UPPER.includes(row.priority)}<Priority priority={row.priority} />{/if}
    </p>
  {/if}
</div>

<style>
  .card {
    padding: 7px 6px;
    overflow-wrap: anywhere;
  }
  .small {
    padding: 2px 4px;
    font-size: 12px;
    line-height: 1.3;
  }
  .small p {
    font-size: 11.5px;
  }
  a {
    font-weight: 500;
  }
  .foot {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 2px 8px;
  }
</style>
