<script lang="ts">
  import { dndzone, type DndEvent } from 'svelte-dnd-action';
  import type { DaysView } from '$lib/view/task-shapes.ts';
  import type { TaskRowView } from '$lib/view/tasks.ts';
  import type { CellEdit } from './cell-edit.ts';
  import TaskCard from './TaskCard.svelte';

  /** The list as the days of a month or a week; a task that is carried to another day is due then. */
  interface Props {
    view: DaysView;
    /** Only the week of this date. */
    week: string | null;
    openId: number | null;
    hrefOf: (id: number) => string;
    /** The address of another month, or of one week. */
    monthHref: (month: string) => string;
    weekHref: (date: string | null) => string;
    onedit: (edit: CellEdit) => void;
  }

  let { view, week, openId, hrefOf, monthHref, weekHref, onedit }: Props = $props();
  const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

  let days = $derived(view.days.map((day) => ({ ...day, rows: [...day.rows] })));
  const from = $derived(
    week === null ? 0 : Math.max(0, Math.floor(days.findIndex(({ date }) => date === week) / 7) * 7)
  );
  const shown = $derived(week === null ? days : days.slice(from, from + 7));

  function consider(date: string, event: CustomEvent<DndEvent<TaskRowView>>) {
    days = days.map((day) => (day.date === date ? { ...day, rows: event.detail.items } : day));
  }

  function finalize(date: string, event: CustomEvent<DndEvent<TaskRowView>>) {
    consider(date, event);
    const id = Number(event.detail.info.id);
    const moved = event.detail.items.find((row) => row.id === id);
    if (moved && moved.dueDate !== date)
      onedit({
        id,
        patch: { dueDate: date, dueTime: moved.dueTime },
        base: { dueDate: moved.dueDate, dueTime: moved.dueTime }
      });
  }
</script>

<div class="top">
  <a class="button plain" href={monthHref(view.before)} aria-label="Previous month">←</a>
  <h2>{view.title}</h2>
  <a class="button plain" href={monthHref(view.after)} aria-label="Next month">→</a>
  <span class="quiet">
    {#if view.whose}Shaded: closed days of {view.whose}.{/if}
    {view.more ? ' Only the first 1,000 tasks of the month are shown.' : ''}
  </span>
  <span class="switch">
    {#if week === null}<a
        class="button plain"
        href={weekHref(view.days.find(({ isToday }) => isToday)?.date ?? `${view.month}-01`)}>one week</a
      >
    {:else}<a class="button plain" href={weekHref(null)}>the whole month</a>{/if}
  </span>
</div>
<div class="days" class:one={week !== null}>
  {#each view.days.slice(0, 7) as { weekday } (weekday)}<span class="weekday">{WEEKDAYS[weekday]}</span
    >{/each}
  {#each shown as day (day.date)}
    <section
      class:closed={day.closed}
      class:outside={day.outside}
      class:today={day.isToday}
      aria-label="{WEEKDAYS[day.weekday]} {day.date}{day.closed ? ', closed' : ''}"
    >
      <p class="date">
        <span class="phone">{WEEKDAYS[day.weekday]}</span>
        {#if week === null}<a href={weekHref(day.date)}>{day.dayOfMonth}</a>{:else}{day.dayOfMonth}{/if}
        {#if day.isToday}<b>today</b>{/if}
        {#if day.holiday}<span class="quiet">{day.holiday}</span>{/if}
      </p>
      <ul
        use:dndzone={{
          items: day.rows,
          flipDurationMs: 0,
          type: 'day',
          dropTargetStyle: { outline: '2px dashed var(--brass)' },
          zoneTabIndex: -1
        }}
        onconsider={(event) => consider(day.date, event)}
        onfinalize={(event) => finalize(day.date, event)}
      >
        {#each day.rows as row (row.id)}
          <li aria-label={row.name} class:open={row.id === openId}>
            <TaskCard {row} href={hrefOf(row.id)} small={week === null} />
          </li>
        {/each}
      </ul>
      {#if day.count > day.rows.length}
        <a class="quiet" href={weekHref(day.date)}>{day.count - day.rows.length} more</a>
      {/if}
    </section>
  {/each}
</div>

<style>
  .top {
    display: flex;
    align-items: center;
    gap: 8px;
    margin: 4px 0 8px;
  }
  .switch {
    margin-left: auto;
  }
  .days {
    display: grid;
    grid-template-columns: repeat(7, minmax(0, 1fr));
    border-top: 1px solid var(--line);
  }
  .weekday {
    color: var(--ink-3);
    font-size: 12px;
    font-weight: 550;
    padding: 3px 6px;
  }
  section {
    border-bottom: 1px solid var(--line);
    border-left: 1px solid var(--line-soft);
    padding: 3px 5px 6px;
    min-height: 104px;
    min-width: 0;
  }
  .one section {
    min-height: 380px;
  }
  .closed {
    background: var(--dim);
  }
  .outside .date a {
    color: var(--ink-2);
  }
  .today {
    box-shadow: inset 0 2px 0 var(--brass);
  }
  .date {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    font-size: 12.5px;
    font-weight: 550;
  }
  .date b {
    color: var(--brass-ink);
    font-weight: 550;
  }
  ul {
    min-height: 54px;
  }
  li {
    cursor: grab;
    border-radius: 4px;
  }
  li.open {
    background: var(--lit);
  }
  .phone {
    display: none;
  }
  /* Seven columns of a phone break words by the letter: there it is a list of the days that have something. */
  @media (max-width: 640px) {
    .days {
      display: block;
    }
    .weekday,
    section.outside,
    section:not(.today):not(:has(li)) {
      display: none;
    }
    section,
    .one section {
      border-left: 0;
      min-height: 0;
    }
    .phone {
      display: block;
    }
    ul {
      min-height: 0;
    }
  }
</style>
