<script lang="ts">
  import type { DayMinutes, DeskBell, DeskTaskView } from '$lib/view/desk.ts';
  import { ask } from '$lib/ui/dialog/ask.svelte.ts';
  import BellMark from '$lib/ui/bell/BellMark.svelte';
  import DayBar from './DayBar.svelte';
  import type { Placer } from './placer.svelte.ts';

  /** A task of a Desk: what it is, for when, and what can be done with it. */
  interface Props {
    task: DeskTaskView;
    /** Null where somebody else only reads. */
    placer: Placer | null;
    /** The hours of its day with its own bells; null where its day has a bar of its own. */
    bar?: {
      hours: readonly [number, number];
      lit: readonly DayMinutes[];
      away: readonly DayMinutes[];
      now: number | null;
      bells: readonly DeskBell[];
    } | null;
    /** Chosen among several; null where none can be. */
    chosen?: boolean | null;
    onchoose?: (chosen: boolean, shift: boolean) => void;
    ondropon?: (id: number) => void;
    /** Asks its owner about it. */
    onask?: ((id: number) => void) | undefined;
  }

  let { task, placer, bar = null, chosen = null, onchoose, ondropon, onask }: Props = $props();
  const isDone = $derived(task.place === 'finished');
  const said = $derived(
    [
      task.note,
      task.status,
      task.subtasks.all > 0 ? `${task.subtasks.done} of ${task.subtasks.all} subtasks done` : null,
      task.rhythm ? `repeats ${task.rhythm === 'other' ? 'by its own rhythm' : task.rhythm}` : null,
      task.private ? 'private' : null
    ].filter(Boolean)
  );
</script>

<li
  class="row"
  class:with-bar={bar !== null}
  class:is-over={placer?.over?.key === `row ${task.id}`}
  data-desk-task={task.id}
  draggable={placer !== null && !isDone}
  ondragstart={(event) => {
    if (!placer) return;
    placer.dragged = task;
    event.dataTransfer?.setData('text/plain', task.name);
  }}
  ondragend={() => {
    if (placer) placer.dragged = placer.over = null;
  }}
  ondragover={(event) => {
    if (!placer?.dragged || !ondropon || placer.dragged.id === task.id) return;
    event.preventDefault();
    placer.over = { key: `row ${task.id}`, words: `Before “${task.name}” in your own order` };
  }}
  ondrop={(event) => {
    event.preventDefault();
    if (placer?.dragged) ondropon?.(placer.dragged.id);
  }}
>
  <span class="lead">
    {#if chosen !== null}
      <input
        type="checkbox"
        checked={chosen}
        aria-label="Choose {task.name}"
        onclick={(event) => onchoose?.(event.currentTarget.checked, event.shiftKey)}
      />
    {:else if placer && !isDone && task.place !== 'parked'}
      <button
        class="box"
        aria-label="Finish: {task.name}"
        title="Finish"
        onclick={() => void placer.finish(task, (title) => ask({ title, yes: 'Finish all', no: 'Cancel' }))}
      ></button>
    {/if}
    <span class:late={task.late} title={task.why}>{task.dated}</span>
  </span>
  <span class="what">
    <a href="/tasks/{task.id}" class:heavy={task.heavy}>{task.name}</a>
    <span class="more">
      {#if task.priority}<b class:plain={!task.heavy}>{task.priority}</b>{said.length > 0 || task.of
          ? ' · '
          : ''}{/if}
      {said.join(' · ')}{said.length > 0 && task.of ? ' · ' : ''}{task.of ?? ''}
    </span>
    {#if task.bell}<svg
        class="bell"
        viewBox="-9 -9 18 18"
        width="15"
        height="15"
        role="img"
        aria-label="Next notice {task.bell}"
        ><title>Next notice {task.bell}</title><BellMark kind="reminder" /></svg
      >{/if}
    {#if task.from}<span class="from">{task.from}</span>{/if}
  </span>
  {#if placer && !isDone}
    <button
      class="for"
      aria-label="For when: {task.name}"
      onclick={() => (placer.asking = { step: 'where', tasks: [task] })}
      >{task.place === 'parked' ? 'Take it on…' : 'For…'}</button
    >
  {/if}
  {#if onask}
    <button class="for" aria-label="Ask about it now: {task.name}" onclick={() => onask(task.id)}
      >Ask now</button
    >
  {/if}
  {#if bar}<span class="hours" class:empty={bar.bells.length === 0}><DayBar {...bar} /></span>{/if}
</li>

<style>
  .row {
    display: grid;
    grid-template-columns: 176px minmax(0, 1fr) auto;
    gap: 2px 12px;
    align-items: center;
    min-height: 30px;
    padding: 3px 0;
    border-bottom: 1px solid var(--line-soft);
  }
  .with-bar {
    grid-template-columns: 176px minmax(0, 1fr) 44px var(--bar-width);
  }
  .is-over {
    box-shadow: 0 -2px 0 var(--brass);
  }
  .lead {
    display: flex;
    align-items: center;
    gap: 7px;
    color: var(--ink-2);
    font-size: 13px;
  }
  .late {
    color: var(--brick);
    font-weight: 600;
  }
  .box {
    flex: none;
    width: 24px;
    height: 24px;
    display: grid;
    place-content: center;
    cursor: pointer;
  }
  .box::before {
    content: '';
    width: 14px;
    height: 14px;
    border: 1.5px solid var(--ink-3);
    border-radius: 3px;
  }
  .box:hover::before {
    border-color: var(--sea);
    background: var(--sea-wash);
  }
  .what {
    min-width: 0;
  }
  a {
    font-weight: 550;
    text-decoration: none;
  }
  a:hover {
    text-decoration: underline;
  }
  .heavy {
    font-weight: 700;
  }
  .more,
  .from {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  .from {
    display: block;
  }
  .bell {
    display: inline;
    vertical-align: -3px;
  }
  .plain {
    font-weight: 400;
  }
  .for {
    min-height: 24px;
    padding: 0 4px;
    color: var(--brass-ink);
    font-size: 12.5px;
    cursor: pointer;
    white-space: nowrap;
  }
  .for:hover {
    text-decoration: underline;
  }
  @media (max-width: 900px) {
    .row,
    .with-bar {
      grid-template-columns: minmax(0, 1fr) auto;
      padding: 7px 0;
    }
    .lead {
      grid-column: 1 / -1;
    }
    .hours {
      grid-column: 1 / -1;
    }
    .empty {
      display: none;
    }
    .for {
      min-height: 44px;
      min-width: 44px;
    }
    .box {
      width: 44px;
      height: 44px;
      margin: -8px 0 -8px -12px;
    }
    .box::before {
      width: 20px;
      height: 20px;
    }
  }
  @media print {
    .for {
      display: none;
    }
  }
</style>
