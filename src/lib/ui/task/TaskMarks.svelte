<script lang="ts">
  import Bell from '@lucide/svelte/icons/bell';
  import EyeOff from '@lucide/svelte/icons/eye-off';
  import Repeat from '@lucide/svelte/icons/repeat';
  import type { TaskRowView } from '$lib/view/tasks.ts';

  /** Small marks beside a task's name: its next bell, how it repeats, its subtasks, its tags. */
  let { row, quiet = false }: { row: TaskRowView; quiet?: boolean } = $props();
</script>

<span class="marks">
  {#if row.bell}<span title="Next bell {row.bell}"
      ><Bell size={13} strokeWidth={1.75} /><span class="sr">next bell {row.bell}</span></span
    >{/if}
  {#if row.recurring}<span title="Recurring"
      ><Repeat size={13} strokeWidth={1.75} /><span class="sr">repeats</span></span
    >{/if}
  {#if row.subtasks.all > 0}<span class="quiet" title="Subtasks done"
      >{row.subtasks.done} of {row.subtasks.all}<span class="sr"> subtasks done</span></span
    >{/if}
  {#if !quiet}{#each row.tags as tag (tag)}<span class="tag">{tag}</span>{/each}{/if}
</span>
{#if row.private}<span class="quiet block"
    ><EyeOff size={12} strokeWidth={1.75} /> private: only you see it</span
  >{/if}
{#if row.setAside}<span class="quiet block"
    >{row.setAside}{row.asideUntil
      ? row.setAside === 'parked'
        ? `, back on ${row.asideUntil}`
        : `, until ${row.asideUntil}`
      : ''}</span
  >{/if}

<style>
  .marks {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 3px 7px;
    align-items: center;
    margin-left: 6px;
    color: var(--brass-ink);
    vertical-align: -1px;
  }
  .tag {
    color: var(--ink-2);
    font-size: 11.5px;
    border-bottom: 1px dotted var(--ink-3);
    line-height: 1.3;
  }
  .block {
    display: flex;
    gap: 4px;
    align-items: center;
  }
</style>
