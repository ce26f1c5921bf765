<script lang="ts">
  import { agree, many } from '$lib/core/many.ts';
  import { getContext } from 'svelte';
  import X from '@lucide/svelte/icons/x';
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { PageData } from './$types';

  type Day = Awaited<PageData['day']>;
  /** Counts, each with the way to what is counted. */
  interface Props extends Pick<PageData, 'tower' | 'ladders' | 'tallies'> {
    /** Null while it is worked out. */
    day: Day | null;
  }

  let { day, tower, ladders, tallies }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  const silent = $derived(day?.outOfEarshot.reduce((sum, { count }) => sum + count, 0));
  const aside = $derived(
    [
      [day?.ahead.held, 'held'],
      [day?.ahead.late, 'late']
    ].flatMap(([count, word]) => (count ? `, ${count} ${word}` : ''))
  );
</script>

<ul class="ledger">
  <li>
    <a href="/tasks?show=overdue"
      ><b class="brick-text">{day?.overdue.count ?? '…'}</b><span
        >overdue{day && day.overdue.count > 0
          ? `, oldest ${many(day.overdue.oldestWorkingDays, 'working day')}`
          : ''}</span
      ></a
    >
  </li>
  <li>
    <a href="/tasks?show=today"><b>{day?.dueToday ?? '…'}</b><span>due today (owner’s date)</span></a>
  </li>
  <li>
    <a href="#next"
      ><b>{day?.ahead.ringing.toLocaleString('en') ?? '…'}</b><span
        >bells in the next 24 hours{aside.join('')}</span
      ></a
    >
  </li>
  <li>
    <a href="#failing"
      ><b class:brick-text={tower.failing.length > 0}>{tower.failing.length}</b><span
        >{agree(tower.failing.length, 'message', 'messages')} not delivered yet</span
      ></a
    >
  </li>
  <li>
    <a href="/tasks?show=out+of+earshot"
      ><b class="slate-text">{silent ?? '…'}</b><span
        >out of earshot: no rule reaches {agree(silent ?? 0, 'it', 'them')}</span
      ></a
    >
  </li>
  <li>
    <a href="/escalations"
      ><b>{ladders.count}</b><span
        >on a ladder{ladders.asked > 0
          ? `, ${many(ladders.asked, 'promise needs', 'promises need')} approval`
          : ''}</span
      ></a
    >
  </li>
  {#each tallies as tally (tally.id)}
    <li class="own">
      <a href="/tasks{tally.query ? `?${tally.query}` : ''}"
        ><b>{tally.count.toLocaleString('en')}</b><span>{tally.name}</span></a
      >
      <form method="POST" action="?/uncount" use:enhance={submitDone(done)}>
        <input type="hidden" name="list" value={tally.id} />
        <button class="x" aria-label="Remove the count {tally.name}"><X size={12} /></button>
      </form>
    </li>
  {/each}
</ul>

<style>
  .ledger {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
    gap: 12px 0;
    margin: 12px 0 16px;
  }
  .ledger li {
    padding-right: 16px;
    margin-right: 16px;
    border-right: 1px solid var(--line);
  }
  .ledger li:last-child {
    border: 0;
    margin-right: 0;
    padding-right: 0;
  }
  .own {
    position: relative;
  }
  .own form {
    position: absolute;
    top: 0;
    right: 0;
  }
  .x {
    color: var(--ink-3);
    padding: 2px;
    cursor: pointer;
    opacity: 0;
  }
  .own:hover .x,
  .x:focus-visible {
    opacity: 1;
  }
  .ledger a {
    text-decoration: none;
  }
  .ledger a:hover span {
    text-decoration: underline;
  }
  .ledger b {
    display: block;
    font:
      600 25px/1.1 'Bricolage Grotesque Variable',
      sans-serif;
  }
  .ledger span {
    color: var(--ink-2);
    font-size: 12.5px;
    line-height: 1.3;
    display: block;
  }
</style>
