<script lang="ts">
  import { many } from '$lib/core/many.ts';
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
      <b>Rules are paused</b>
      <div>
        {standing.why === 'restored'
          ? `A backup of ${standing.since} was restored at ${standing.until}.`
          : `The server’s clock jumped from ${standing.since} to ${standing.until}.`}
        {standing.count === 0
          ? 'No ring time was missed'
          : `${many(standing.count, 'ring time was', 'ring times were')} missed`}{standing.underWay > 0
          ? `, and ${many(standing.underWay, 'message was', 'messages were')} being sent`
          : ''}{standing.why === 'restored' && standing.count + standing.underWay > 0
          ? '. Some may already have been sent.'
          : '.'}
        {#if standing.listed.length > 0}
          <details>
            <summary>{standing.count > standing.listed.length ? 'Show the first' : 'Show them'}</summary>
            <ul>
              {#each standing.listed as one, i (i)}<li>{one.at}: {one.task}, by “{one.rule}”</li>{/each}
            </ul>
          </details>
        {/if}
        <p class="answers">
          <button class="button" name="answer" value="pass over">Skip them</button>
          <button class="button" name="answer" value="send">Send what is still useful</button>
          <button class="button" name="answer" value="gather">Combine: one message per person</button>
        </p>
      </div>
    </form>
  {/if}
  {#each tower.rushes as rush (rush.id)}
    <form class="band brick" method="POST" action="?/rush" use:enhance={submitDone(done)}>
      <b>Too many messages</b>
      <span>
        <a href="/rules/{rush.ruleId}">{rush.rule}</a> was about to send {many(rush.count, 'message')}; the
        day’s forecast was {rush.expected}.
        <input type="hidden" name="rush" value={rush.id} />
        <button class="button" name="answer" value="send">Send them</button>
        <button class="button" name="answer" value="gather">Combine: one message per person</button>
        <button class="button" name="answer" value="do not ring">Do not send</button>
      </span>
    </form>
  {/each}
  {#if tower.sweeps.length > 0}
    <p class="band">
      <b
        >{tower.sweeps.length === 1
          ? 'A sweep needs you'
          : `${many(tower.sweeps.length, 'sweep')} need you`}</b
      >
      <span
        >{#each tower.sweeps as sweep, i (sweep.id)}{i > 0 ? ', ' : ''}<a href="/sweeps/runs/{sweep.id}"
            >{sweep.name}</a
          >
          {sweep.halted ? 'was stopped part-way' : 'needs approval'}{/each}.</span
      >
    </p>
  {/if}
  {#if tower.downtime}
    {@const down = tower.downtime}
    <details class="band">
      <summary>
        <b>Server was down</b> from {down.from} to {down.until}: {many(down.left, 'notice')} sent late, {down.waiting}
        waiting, {down.unrung} not sent.
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
      <b>Managers in a circle</b><span
        >{circle.join(' → ')} → {circle[0]}: the coordinators are told instead.
        <a href="/people">Correct it in People</a></span
      >
    </p>
  {/each}
  {#if ladders.nobodyAbove.count > 0}
    {@const alone = ladders.nobodyAbove}
    <p class="band">
      <b>Nobody to escalate to</b><span
        >{many(alone.count, 'overdue task has', 'overdue tasks have')} nobody to escalate to:
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
