<script lang="ts">
  import EyeOff from '@lucide/svelte/icons/eye-off';
  import type { TaskRowView } from '$lib/view/tasks.ts';

  /** Small marks beside a task's name: its next bell, how it repeats, its subtasks, its tags. */
  let { row, quiet = false }: { row: TaskRowView; quiet?: boolean } = $props();
</script>

<span class="marks">
  {#if row.bell}<span title="Next bell {row.bell}"
      ><i class="bell"></i><span class="sr">next bell {row.bell}</span></span
    >{/if}
  {#if row.recurring}<span title="Recurring"><i class="repeat"></i><span class="sr">repeats</span></span>{/if}
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
  /* Drawn by the style, not in each row: a list has hundreds of them. The paths are those of the icons used elsewhere. */
  i {
    display: block;
    width: 13px;
    height: 13px;
    background: currentColor;
    mask: center / contain no-repeat;
    forced-color-adjust: none;
  }
  .bell {
    mask-image: url("data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 24 24' fill='none' stroke='black' stroke-width='1.9' stroke-linecap='round' stroke-linejoin='round'%3E%3Cpath d='M10.268 21a2 2 0 0 0 3.464 0'/%3E%3Cpath d='M3.262 15.326A1 1 0 0 0 4 17h16a1 1 0 0 0 .74-1.673C19.41 13.956 18 12.499 18 8A6 6 0 0 0 6 8c0 4.499-1.411 5.956-2.738 7.326'/%3E%3C/svg%3E");
  }
  .repeat {
    mask-image: url("data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 24 24' fill='none' stroke='black' stroke-width='1.9' stroke-linecap='round' stroke-linejoin='round'%3E%3Cpath d='m17 2 4 4-4 4'/%3E%3Cpath d='M3 11v-1a4 4 0 0 1 4-4h14'/%3E%3Cpath d='m7 22-4-4 4-4'/%3E%3Cpath d='M21 13v1a4 4 0 0 1-4 4H3'/%3E%3C/svg%3E");
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
