<script lang="ts">
  import RuleFaults from '$lib/ui/rule/RuleFaults.svelte';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import X from '@lucide/svelte/icons/x';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import EarshotList from '$lib/ui/bell/EarshotList.svelte';
  import BellStrip from '$lib/ui/bell/BellStrip.svelte';
  import Attention from '$lib/ui/tower/Attention.svelte';
  import BellTable from '$lib/ui/bell/BellTable.svelte';
  import { CHANNEL } from '$lib/core/channel/channels.ts';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const done = getContext<(done: Done) => void>('done');
  let opened = $state<string | null>(null);

  const { tower } = $derived(data);
  const later = new Later(() => data.day);
  const day = $derived(later.value);
  const silent = $derived(day?.outOfEarshot.reduce((sum, { count }) => sum + count, 0));
  const beyond = $derived(day && day.ahead.all > day.bells.length ? day.ahead.all : null);
  const aside = $derived(
    [
      [day?.ahead.held, 'held'],
      [day?.ahead.late, 'late']
    ].flatMap(([count, word]) => (count ? `, ${count} ${word}` : ''))
  );

  function openBell(key: string | null) {
    opened = key;
    requestAnimationFrame(() => document.getElementById(`bell-${key}`)?.scrollIntoView({ block: 'center' }));
  }
</script>

<svelte:head><title>Bell tower · Early Bell</title></svelte:head>

<h1>Bell tower</h1>

{#if data.setUp.some(({ done }) => !done)}
  <section class="sheet start" aria-labelledby="to-begin">
    <h2 id="to-begin">To begin</h2>
    <ol>
      {#each data.setUp as { key, done } (key)}
        <li class:done>
          <span class="tick" aria-hidden="true">{done ? '●' : '○'}</span>
          <span>
            {#if key === 'people'}<a href="/people/new">Add the people</a> of the team, or
              <a href="/people/sheet">bring them in</a> from a sheet: each one’s zone and week decide when they
              are told.
            {:else if key === 'calendar'}<a href="/calendars">Give the calendar its holidays</a>, so that
              bells do not ring on closed days.
            {:else if key === 'tasks'}<a href="/tasks/import">Bring tasks in</a> from a CSV file, or
              <a href="/tasks/new">add one</a>.
            {:else}<a href="/rules">Make a rule</a> and see what it would ring before you turn it on.{/if}
            <span class="quiet">{done ? 'done' : 'still to do'}</span>
          </span>
        </li>
      {/each}
    </ol>
  </section>
{/if}

<div class="alarms">
  {#if tower.standing}
    {@const standing = tower.standing}
    <form class="band brick" method="POST" action="?/standing" use:enhance={submitDone(done)}>
      <b>The engine stands still</b>
      <div>
        {standing.why === 'restored'
          ? `The workspace was put back from a backup of ${standing.since}, at ${standing.until}.`
          : `The machine’s clock jumped from ${standing.since} to ${standing.until}.`}
        {standing.count === 0
          ? 'Nothing that is known here should have rung since'
          : standing.count === 1
            ? '1 ring of that time has not rung here'
            : `${standing.count} rings of that time have not rung here`}{standing.underWay > 0
          ? `, and ${standing.underWay} messages were on their way`
          : ''}{standing.why === 'restored' && standing.count + standing.underWay > 0
          ? '; some may have left before.'
          : '.'}
        {#if standing.listed.length > 0}
          <details>
            <summary>{standing.count > standing.listed.length ? 'the first of them' : 'which ones'}</summary>
            <ul>
              {#each standing.listed as one, i (i)}<li>{one.at}: {one.task}, by “{one.rule}”</li>{/each}
            </ul>
          </details>
        {/if}
        <p class="answers">
          <button class="button" name="answer" value="pass over">Pass them over</button>
          <button class="button" name="answer" value="send">Send what still has a point</button>
          <button class="button" name="answer" value="gather">Gathered, one for each person</button>
        </p>
      </div>
    </form>
  {/if}
  {#each tower.rushes as rush (rush.id)}
    <form class="band brick" method="POST" action="?/rush" use:enhance={submitDone(done)}>
      <b>A rush was stopped</b>
      <span>
        <a href="/rules/{rush.ruleId}">{rush.rule}</a> was about to send {rush.count} messages; {rush.expected}
        were foreseen for the whole day.
        <input type="hidden" name="rush" value={rush.id} />
        <button class="button" name="answer" value="send">Send them</button>
        <button class="button" name="answer" value="gather">Gathered, one for each person</button>
        <button class="button" name="answer" value="do not ring">Do not ring</button>
      </span>
    </form>
  {/each}
  {#if tower.sweeps.length > 0}
    <p class="band">
      <b>{tower.sweeps.length === 1 ? 'A sweep waits' : `${tower.sweeps.length} sweeps wait`}</b>
      <span
        >{#each tower.sweeps as sweep, i (sweep.id)}{i > 0 ? ', ' : ''}<a href="/sweeps/runs/{sweep.id}"
            >{sweep.name}</a
          >
          {sweep.halted ? 'was halted half-way' : 'for a yes'}{/each}.</span
      >
    </p>
  {/if}
  {#if tower.downtime}
    {@const down = tower.downtime}
    <details class="band">
      <summary>
        <b>It did not run</b> from {down.from} to {down.until}: of what should have rung then {down.left} left late,
        {down.waiting} wait and {down.unrung} did not ring.
      </summary>
      <ul>
        {#each down.listed as one, i (i)}<li>{one.at}: {one.task}, to {one.person}: {one.became}</li>{/each}
      </ul>
    </details>
  {/if}
  {#each tower.returned as one (one.address)}
    <form class="band brick" method="POST" action="?/works" use:enhance={submitDone(done)}>
      <b>Mail came back</b>
      <span>
        {#if one.personId !== null}<a href="/people/{one.personId}">{one.name}</a>,{/if}
        {one.address}, {one.at}: {one.reason}
        <input type="hidden" name="address" value={one.address} />
        <button class="button">It works again</button>
      </span>
    </form>
  {/each}
  {#each data.ladders.circles as circle (circle.join())}
    <p class="band brick">
      <b>Managers go round</b><span
        >{circle.join(' → ')} → {circle[0]}: above them the coordinators are told.
        <a href="/people">Mend it in People</a></span
      >
    </p>
  {/each}
  {#if data.ladders.nobodyAbove.count > 0}
    {@const alone = data.ladders.nobodyAbove}
    <p class="band">
      <b>Nobody above</b><span
        >{alone.count === 1 ? 'One late task' : `${alone.count} late tasks`} on a ladder
        {alone.count === 1 ? 'has' : 'have'} nobody above the owner:
        {#each alone.tasks as task, i (task.id)}{i > 0 ? ', ' : ''}<a href="/tasks/{task.id}">{task.name}</a
          >{/each}{#if alone.count > alone.tasks.length}, and <a href="/escalations?only=nobody+above"
            >the others</a
          >{/if}.</span
      >
    </p>
  {/if}
  {#each tower.faulty as rule (rule.id)}
    <p class="band brick">
      <b>Faulty rule</b><span><a href="/rules/{rule.id}">{rule.name}</a>: {rule.fault}</span>
    </p>
  {/each}
  {#each tower.uncomputed as rule (rule.id)}
    <p class="band brick">
      <b>Faulty rule</b><span><RuleFaults fault={rule.fault} {rule} /></span>
    </p>
  {/each}
</div>

<ul class="ledger">
  <li>
    <a href="/tasks?show=overdue"
      ><b class="brick-text">{day?.overdue.count ?? '…'}</b><span
        >overdue{day && day.overdue.count > 0
          ? `, oldest ${day.overdue.oldestWorkingDays} working days`
          : ''}</span
      ></a
    >
  </li>
  <li>
    <a href="/tasks?show=today"><b>{day?.dueToday ?? '…'}</b><span>due today, where their owner is</span></a>
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
        >messages not delivered yet</span
      ></a
    >
  </li>
  <li>
    <a href="/tasks?show=out+of+earshot"
      ><b class="slate-text">{silent ?? '…'}</b><span
        >out of earshot: no bell reaches {silent === 1 ? 'it' : 'them'}</span
      ></a
    >
  </li>
  <li>
    <a href="/escalations"
      ><b>{data.ladders.count}</b><span
        >on a ladder{data.ladders.asked > 0
          ? `, ${data.ladders.asked} ${data.ladders.asked === 1 ? 'promise waits' : 'promises wait'} for a yes`
          : ''}</span
      ></a
    >
  </li>
  {#each data.tallies as tally (tally.id)}
    <li class="own">
      <a href="/tasks{tally.query ? `?${tally.query}` : ''}"
        ><b>{tally.count.toLocaleString('en')}</b><span>{tally.name}</span></a
      >
      <form method="POST" action="?/uncount" use:enhance={submitDone(done)}>
        <input type="hidden" name="list" value={tally.id} />
        <button class="x" aria-label="No longer count {tally.name} here"><X size={12} /></button>
      </form>
    </li>
  {/each}
</ul>

<section class="sheet band24" aria-labelledby="next">
  <p class="head">
    <span class="title" id="next" role="heading" aria-level="2">Bells in the next 24 hours</span>
    <span class="quiet"
      >hours as on your wall; lit is each person’s working time{beyond !== null
        ? `; the first ${day?.bells.length} of ${beyond.toLocaleString('en')}`
        : ''}</span
    >
  </p>
  {#if later.failed}<LaterFault what="The day ahead" />
  {:else if !day}<p class="quiet waits" aria-live="polite">Working out the day ahead…</p>
  {:else}<BellStrip
      strip={day.strip}
      label="Bells in the next 24 hours, one row for each person"
      onopen={openBell}
    />{/if}
</section>

{#if day}<Attention byAge={day.byAge} stuck={day.stuck} slipping={day.slipping} loud={day.loud} />{/if}

{#if day && day.outOfEarshot.length > 0}
  <section class="band earshot" aria-labelledby="earshot">
    <b id="earshot">Out of earshot</b>
    <EarshotList groups={day.outOfEarshot} />
  </section>
{/if}

{#if tower.failing.length > 0}
  <section id="failing">
    <h2>Not delivered yet</h2>
    <table>
      <thead><tr><th>Message</th><th>To</th><th>State</th><th>What the other side said</th></tr></thead>
      <tbody>
        {#each tower.failing as delivery (delivery.id)}
          <tr>
            <td>{delivery.subject}</td>
            <td>{delivery.address} <span class="quiet">{CHANNEL[delivery.channel].words}</span></td>
            <td class="brick-text"
              >{delivery.state === 'failed'
                ? `failed after ${delivery.attempt} tries`
                : `tried ${delivery.attempt} times, goes on trying`}{delivery.inDoubt
                ? '; in doubt: it may have arrived'
                : ''}</td
            >
            <td>{delivery.lastAnswer}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
{/if}

<section>
  {#if day && day.bells.length > 0}
    <BellTable bells={day.bells} caption="Bells in the next 24 hours" bind:opened />
  {:else if day}
    <p class="quiet">No rule rings in the next 24 hours.</p>
  {/if}
</section>

<style>
  .waits {
    min-height: 380px;
  }
  .answers {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-top: 6px;
  }
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
  .alarms:not(:empty) {
    display: grid;
    gap: 6px;
    margin: 6px 0 10px;
  }
  .alarms .band {
    align-items: baseline;
  }
  .band24 {
    padding: 12px 14px 8px;
  }
  .head {
    display: flex;
    align-items: baseline;
    gap: 16px;
    flex-wrap: wrap;
    margin-bottom: 6px;
  }
  .title {
    font:
      650 15.5px 'Bricolage Grotesque Variable',
      sans-serif;
  }
  section {
    margin-bottom: 18px;
  }
  .start {
    padding: 14px 18px;
    margin-top: 12px;
  }
  .start ol {
    margin-top: 6px;
    display: grid;
    gap: 3px;
  }
  .start li {
    display: flex;
    gap: 10px;
  }
  .start .done {
    color: var(--ink-2);
  }
  .tick {
    color: var(--brass);
  }
  h2 {
    margin-bottom: 6px;
  }
</style>
