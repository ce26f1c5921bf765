<script lang="ts">
  import { agree } from '$lib/core/many.ts';
  import { getContext } from 'svelte';
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import RuleFaults from '$lib/ui/rule/RuleFaults.svelte';
  import type { PageData } from './$types';

  /** What somebody must look at: what stands still, was stopped, waits, came back or fails. */
  let { tower, ladders }: Pick<PageData, 'tower' | 'ladders'> = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

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
          ? 'No ring time was missed'
          : standing.count === 1
            ? '1 ring time was missed'
            : `${standing.count} rings of that time have not rung here`}{standing.underWay > 0
          ? `, and ${standing.underWay} messages were on their way`
          : ''}{standing.why === 'restored' && standing.count + standing.underWay > 0
          ? '. Some may already have been sent.'
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
          <button class="button" name="answer" value="pass over">Skip them</button>
          <button class="button" name="answer" value="send">Send what is still useful</button>
          <button class="button" name="answer" value="gather">Gathered, one for each person</button>
        </p>
      </div>
    </form>
  {/if}
  {#each tower.rushes as rush (rush.id)}
    <form class="band brick" method="POST" action="?/rush" use:enhance={submitDone(done)}>
      <b>Too many messages</b>
      <span>
        <a href="/rules/{rush.ruleId}">{rush.rule}</a> was about to send {rush.count} messages; {rush.expected}
        were foreseen for the whole day.
        <input type="hidden" name="rush" value={rush.id} />
        <button class="button" name="answer" value="send">Send them</button>
        <button class="button" name="answer" value="gather">Gathered, one for each person</button>
        <button class="button" name="answer" value="do not ring">Do not send</button>
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
      <b>Mail was returned</b>
      <span>
        {#if one.personId !== null}<a href="/people/{one.personId}">{one.name}</a>,{/if}
        {one.address}, {one.at}: {one.reason}
        <input type="hidden" name="address" value={one.address} />
        <button class="button">Use it again</button>
      </span>
    </form>
  {/each}
  {#each ladders.circles as circle (circle.join())}
    <p class="band brick">
      <b>Managers go round</b><span
        >{circle.join(' → ')} → {circle[0]}: the coordinators are told instead.
        <a href="/people">Mend it in People</a></span
      >
    </p>
  {/each}
  {#if ladders.nobodyAbove.count > 0}
    {@const alone = ladders.nobodyAbove}
    <p class="band">
      <b>Nobody to escalate to</b><span
        >{alone.count === 1 ? 'One late task' : `${alone.count} late tasks`} on a ladder
        {agree(alone.count, 'has', 'have')} nobody above the owner:
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

<style>
  .answers {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-top: 6px;
  }
  .alarms:not(:empty) {
    display: grid;
    gap: 6px;
    margin: 6px 0 10px;
  }
  .alarms .band {
    align-items: baseline;
  }
</style>
