<script lang="ts">
  import { getContext } from 'svelte';
  import { goto, invalidate } from '$app/navigation';
  import { page } from '$app/state';
  import { ask } from '$lib/ui/dialog/ask.svelte.ts';
  import { many } from '$lib/core/many.ts';
  import type { Done } from '$lib/ui/form/submit.ts';
  import type { Send } from '$lib/ui/form/send.ts';
  import { readJson } from '$lib/ui/form/send.ts';
  import type {
    DeskThingsView,
    DeskBell,
    DeskRows,
    DeskTaskView,
    DeskView,
    MyPersonView,
    WaitingView
  } from '$lib/view/desk.ts';
  import DayBar from './DayBar.svelte';
  import DayBells from './DayBells.svelte';
  import DaysAhead from './DaysAhead.svelte';
  import DeskFoot from './DeskFoot.svelte';
  import DeskRow from './DeskRow.svelte';
  import HourAxis from './HourAxis.svelte';
  import MyPeople from './MyPeople.svelte';
  import MoreRows from './MoreRows.svelte';
  import Things from './Things.svelte';
  import ToPlace from './ToPlace.svelte';
  import Waiting from './Waiting.svelte';
  import { Placer, type DeskAct } from './placer.svelte.ts';

  /** The days of one person, top to bottom. Whoever only reads changes nothing. */
  interface Props {
    desk: DeskView;
    waiting: readonly WaitingView[];
    /** Null while they are worked out. */
    bells: readonly DeskBell[] | null;
    bellsFailed: boolean;
    /** Those who answer to them; null where nobody does, or while it is worked out. */
    people?: readonly MyPersonView[] | null;
    /** What they keep besides tasks; null where somebody else reads. */
    things?: DeskThingsView | null;
    /** Where more rows are read. */
    rowsAt: string;
  }

  let { desk, waiting, bells, bellsFailed, people = null, things = null, rowsAt }: Props = $props();
  const send = getContext<Send>('send');
  const done = getContext<(done: Done) => void>('done');

  const act: DeskAct = async (name, body) => {
    const answer = await send<{ message: string; changeId?: number }>('/desk/acts', { act: name, ...body });
    if ('failed' in answer) return false;
    done({ done: answer.message, ...(answer.changeId === undefined ? {} : { changeId: answer.changeId }) });
    await invalidate('early-bell:tasks');
    return true;
  };
  const own = new Placer(
    () => desk,
    act,
    () => bells ?? []
  );
  const placer = $derived(desk.readOnly ? null : own);

  const read = (query: string, from: number) => {
    const rhythm = desk.rhythm ? `&rhythm=${desk.rhythm}` : '';
    return readJson<DeskRows>(`${rowsAt}?${query}&from=${from}${rhythm}`);
  };

  const todays = $derived((bells ?? []).filter(({ date }) => date === desk.today.date));
  const bellWords = $derived.by(() => {
    if (bells === null) return bellsFailed ? '' : 'Computing your notices…';
    const came = todays.filter(({ rung }) => rung).length;
    const next = todays.filter(({ rung }) => !rung).map(({ time }) => time);
    const times = [...new Set(next)];
    const more = times.length > 4 ? ` and ${many(times.length - 4, 'more time')}` : '';
    const said = [
      came > 0 ? `${many(came, 'notice')} came today` : 'No notice has come today',
      times.length > 0 ? `next at ${times.slice(0, 4).join(', ')}${more}` : 'none is left for today'
    ];
    return `${said.join(', ')}.`;
  });
  /** Everything that is left of today, for one decision. */
  async function moveAll() {
    const tasks = [...desk.tasks.rows];
    while (tasks.length < desk.tasks.count) {
      const more = await read('of=today', tasks.length);
      if (!more || more.rows.length === 0) break;
      tasks.push(...more.rows);
    }
    own.asking = { step: 'where', tasks };
  }

  let whyToday = $state(false);
  let allToday = $state(false);

  // A task moves by itself when its day begins; the page is read anew then. Browsers cut waits off at 24 days.
  $effect(() => {
    const { changesInMs } = desk;
    if (changesInMs === null || changesInMs > 86_400_000) return;
    const timer = setTimeout(() => void invalidate('early-bell:tasks'), changesInMs + 500);
    return () => clearTimeout(timer);
  });

  /** The task at which the keyboard is. */
  function taskAt(target: EventTarget | null): DeskTaskView | null {
    const row = target instanceof Element ? target.closest<HTMLElement>('[data-desk-task]') : null;
    const id = Number(row?.dataset.deskTask);
    return [...desk.toPlace.rows, ...desk.tasks.rows].find((one) => one.id === id) ?? null;
  }

  function onkeydown(event: KeyboardEvent) {
    const { target } = event;
    if (!placer || placer.asking || !(target instanceof HTMLElement)) return;
    if (target.closest('input:not([type="checkbox"]), textarea, select, [contenteditable]')) return;
    const row = target.closest<HTMLElement>('[data-desk-task]');
    if (!row) return;
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const task = taskAt(target);
    if (step !== 0 && event.altKey && task?.place === 'today') {
      event.preventDefault();
      void reorder(task.id, step);
    } else if (step !== 0 && !event.altKey) {
      const rows = [...row.ownerDocument.querySelectorAll<HTMLElement>('[data-desk-task] a')];
      const at = rows.findIndex((link) => row.contains(link));
      event.preventDefault();
      rows[at + step]?.focus();
    } else if (task && !event.ctrlKey && !event.metaKey && !event.altKey) {
      if (event.key === 'f')
        void placer.finish(task, (title) => ask({ title, yes: 'Finish all', no: 'Cancel' }));
      else if (!placer.key(event.key, [task])) return;
      event.preventDefault();
      event.stopPropagation();
    }
  }

  async function reorder(id: number, step: number) {
    const ids = desk.tasks.rows.map((one) => one.id);
    const at = ids.indexOf(id);
    const to = Math.min(ids.length - 1, Math.max(0, at + step));
    ids.splice(at, 1);
    ids.splice(to, 0, id);
    await own.order(ids);
    document.querySelector<HTMLElement>(`[data-desk-task="${id}"] a`)?.focus();
  }

  async function dropBefore(before: number, dragged: number) {
    own.dragged = own.over = null;
    const ids = desk.tasks.rows.map((one) => one.id).filter((id) => id !== dragged);
    if (ids.length === desk.tasks.rows.length) return;
    ids.splice(ids.indexOf(before), 0, dragged);
    await own.order(ids);
  }

  const RHYTHM = { daily: 'Daily', weekly: 'Weekly', monthly: 'Monthly', other: 'Other' };
  function filter(rhythm: string | null) {
    const url = new URL(page.url);
    if (rhythm === null) url.searchParams.delete('rhythm');
    else url.searchParams.set('rhythm', rhythm);
    void goto(url, { keepFocus: true, noScroll: true });
  }
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div class="desk" {onkeydown}>
  <header>
    <div>
      <h1>{desk.readOnly ? `${desk.person.name}: ${desk.title}` : desk.title}</h1>
      <p class="quiet">
        {desk.time} in {desk.place} · {desk.work}
        {bellWords}
        {#if todays.length > 0}<button
            class="link"
            aria-expanded={whyToday}
            onclick={() => (whyToday = !whyToday)}>Why?</button
          >{/if}
      </p>
      {#if desk.readBy && !desk.readOnly}<p class="quiet">{desk.readBy}</p>{/if}
    </div>
    <div class="hours">
      <HourAxis hours={desk.hours} />
      <DayBar
        hours={desk.hours}
        lit={desk.today.lit}
        away={desk.today.away}
        bells={todays}
        now={desk.nowMinute}
      />
    </div>
  </header>
  {#if whyToday}<DayBells bells={todays} what="notices today" />{/if}
  <nav class="jump" aria-label="On this page">
    <a href="#to-place">To place {desk.toPlace.count}</a>
    <a href="#today">Today {desk.tasks.count}</a>
    <a href="#ahead">Days ahead</a>
  </nav>
  {#if desk.rhythms.length > 0}
    <p class="rhythms" role="group" aria-label="What repeats">
      <span class="quiet">What repeats:</span>
      <button class="link" aria-pressed={desk.rhythm === null} onclick={() => filter(null)}>All tasks</button>
      {#each desk.rhythms as rhythm (rhythm)}
        <button class="link" aria-pressed={desk.rhythm === rhythm} onclick={() => filter(rhythm)}
          >{RHYTHM[rhythm]}</button
        >
      {/each}
    </p>
  {/if}

  {#if waiting.length > 0}
    <Waiting
      {waiting}
      {act}
      today={desk.today.date}
      personId={desk.person.id}
      onfinish={(one) => void act('finish', { taskId: one.taskId, withSubtasks: false })}
    />
  {/if}

  <ToPlace part={desk.toPlace} {placer} {read} />

  <section aria-labelledby="today">
    <div class="head">
      <h2 id="today">
        Today <span class="count">{desk.tasks.count}</span>
        {#if desk.tasks.late > 0}<span class="count late">{desk.tasks.late} late</span>{/if}
      </h2>
      {#if placer && desk.tasks.count > 0}
        <span class="several">
          <button class="button plain" onclick={() => void moveAll()}>Move all {desk.tasks.count}…</button>
          <a
            class="button"
            class:main={desk.evening && desk.toPlace.count === 0}
            href="/desk/round?of=evening"
            >{desk.evening
              ? 'Start the evening round'
              : `Evening round${desk.closes ? `, from ${desk.closes}` : ''}`}</a
          >
        </span>
      {/if}
    </div>
    {#if desk.tasks.count === 0}
      <p class="quiet">Nothing is left for today.</p>
    {:else}
      <ul aria-label="Today">
        {#each desk.tasks.rows as task (task.id)}
          <DeskRow
            {task}
            {placer}
            ondropon={(dragged) => void dropBefore(task.id, dragged)}
            bar={{
              hours: desk.hours,
              lit: desk.today.lit,
              away: desk.today.away,
              now: desk.nowMinute,
              bells: todays.filter(({ taskId }) => taskId === task.id)
            }}
          />
        {/each}
      </ul>
      {#if desk.tasks.count > desk.tasks.rows.length}
        {#if allToday}<MoreRows query="of=today" label="All of today" {placer} {read} stamp={desk} />
        {:else}<button class="button plain" onclick={() => (allToday = true)}
            >Show all {desk.tasks.count}</button
          >{/if}
      {/if}
    {/if}
  </section>

  {#if people && people.length > 0}<MyPeople {people} {act} />{/if}
  <DaysAhead {desk} bells={bells ?? []} {placer} {read} />
  <DeskFoot {desk} {placer} {read} />
  {#if things}<Things {things} {act} />{/if}
</div>

{#if own.asking}
  {#await import('./PlaceSheet.svelte') then { default: PlaceSheet }}
    {#key own.asking}<PlaceSheet placer={own} asking={own.asking} />{/key}
  {/await}
{/if}
{#if own.over}<p class="carrying" role="status">{own.over.words}</p>{/if}

<style>
  .desk {
    --bar-width: minmax(220px, 27%);
    display: grid;
    gap: 14px;
    max-width: 1180px;
  }
  header {
    display: grid;
    grid-template-columns: minmax(0, 1fr) var(--bar-width);
    gap: 8px 12px;
    align-items: end;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 6px 12px;
    min-height: 36px;
  }
  .several {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  .count {
    font-weight: 450;
    color: var(--ink-2);
  }
  .late {
    color: var(--brick);
    margin-left: 6px;
  }
  .link {
    min-height: 24px;
    color: var(--brass-ink);
    cursor: pointer;
    text-decoration: underline;
    text-decoration-color: var(--lit-edge);
    text-underline-offset: 3px;
  }
  .rhythms {
    display: flex;
    flex-wrap: wrap;
    gap: 0 12px;
    font-size: 13px;
  }
  .rhythms [aria-pressed='true'] {
    color: var(--ink);
    font-weight: 650;
    text-decoration: none;
  }
  .jump {
    display: none;
  }
  .carrying {
    position: fixed;
    left: 50%;
    bottom: 22px;
    transform: translateX(-50%);
    z-index: 45;
    padding: 8px 16px;
    border-radius: 7px;
    background: var(--ink);
    color: var(--paper);
    max-width: 92vw;
  }
  @media (max-width: 900px) {
    header {
      grid-template-columns: minmax(0, 1fr);
    }
    .jump {
      position: sticky;
      top: 0;
      z-index: 5;
      display: flex;
      gap: 14px;
      padding-block: 4px;
      background: var(--paper);
      border-bottom: 1px solid var(--line);
    }
    .jump a {
      display: grid;
      align-items: center;
      min-height: 44px;
      font-weight: 550;
    }
    .head .button,
    .link {
      min-height: 44px;
    }
    .desk {
      --bar-width: minmax(0, 1fr);
    }
    h2 {
      scroll-margin-top: 60px;
    }
  }
  @media print {
    .rhythms {
      display: none;
    }
  }
</style>
