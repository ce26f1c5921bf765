<script lang="ts">
  import { enhance } from '$app/forms';
  import { invalidateAll } from '$app/navigation';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import type { Send } from '$lib/ui/form/send.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { BeginKey, BeginView, SampleView } from '$lib/view/begin.ts';

  /** What is to be done before a first message is read, line by line; put away, it is found again in Settings. */
  let { begin, sample, postRoom }: { begin: BeginView; sample: SampleView; postRoom: boolean } = $props();

  const done = getContext<(done: Done) => void>('done');
  const may = getContext<(deed: Deed) => boolean>('may');
  const send = getContext<Send>('send');
  /** As long as sample tasks are there, so is the press that removes them. */
  const open = $derived(!begin.away && (sample === 'laid in' || begin.lines.some((line) => !line.done)));
  let testing = $state(false);
  let result = $state<{ arrived: boolean; words: string } | null>(null);

  const TITLES: Record<BeginKey, string> = {
    week: 'Time zone and week',
    mail: 'Mail can leave',
    people: 'People',
    tasks: 'Tasks',
    rule: 'A first rule',
    message: 'A first message'
  };

  async function test() {
    testing = true;
    result = null;
    const answer = await send<{ arrived: boolean; words: string }>('/sending', { does: 'test' });
    result = 'failed' in answer ? { arrived: false, words: answer.message } : answer;
    testing = false;
    await invalidateAll();
  }

  async function keep() {
    const answer = await send<{ message: string; changeId: number }>('/sending/keep', { keeps: true });
    if (!('failed' in answer)) done({ done: answer.message, changeId: answer.changeId });
    result = null;
    await invalidateAll();
  }
</script>

{#if open}
  <section class="sheet start" aria-labelledby="to-begin">
    <div class="head">
      <h2 id="to-begin">Begin</h2>
      <form method="POST" action="/?/begin" use:enhance={submitDone(done)}>
        <input type="hidden" name="away" value="yes" />
        <button class="button plain">Put away</button>
      </form>
    </div>
    <ol>
      {#each begin.lines as { key, done: isDone, now } (key)}
        <li class:done={isDone}>
          <span class="tick" aria-hidden="true">{isDone ? '●' : '○'}</span>
          <div>
            <p>
              <b>{TITLES[key]}</b>
              <span class="quiet"
                >{isDone ? 'done' : 'to do'}{key === 'mail' && result ? '' : ` · ${now}`}</span
              >
            </p>
            {#if !isDone || key === 'mail'}
              <p class="how">
                {#if key === 'week'}
                  <a href="/settings">Time zone</a> and <a href="/calendars">working week</a> decide when
                  rules ring; add holidays, and no rule rings on them.
                  <button class="button" form="week-is-right">Zone and week are right</button>
                {:else if key === 'mail'}
                  <button class="button" disabled={testing} onclick={test}
                    >{testing ? 'Waiting for the server’s answer…' : 'Send me a test message'}</button
                  >
                  {#if may('change settings')}
                    <a href="/settings/channels">Set up the mail server</a>
                    {#if !isDone}<button class="button" onclick={keep}>Keep messages here</button>
                      <span class="quiet">No mail server yet? Then read every message in the Post room.</span
                      >{/if}
                  {/if}
                {:else if key === 'people'}
                  <a href="/people/new">Add people</a> or <a href="/people/sheet">import them</a>, each with
                  their place: it decides when they are told.
                {:else if key === 'tasks'}
                  <a href="/tasks/new">Add a task</a>, press <kbd>n</kbd> for one line like “send the log, fri
                  3pm, for Dale”, or <a href="/tasks/import">import a CSV file</a>.
                  {#if sample === 'possible' && may('look after projects')}
                    <button class="button" form="sample-in">Lay in sample tasks</button>
                  {/if}
                {:else if key === 'rule'}
                  <a href="/rules/starters">Choose a starter</a>, like “one working day before the due date,
                  tell the owner”. Check its forecast, then turn it on.
                {:else}
                  On the rule’s page, “Try on one task” shows what it will say and when, and sends it to you
                  now. The rule’s own leaves at its next ring time; then
                  {#if postRoom}read it in the <a href="/post-room">Post room</a>{:else}the <a href="/outbox"
                      >Outbox</a
                    > lists it{/if}.
                {/if}
              </p>
            {/if}
            {#if key === 'mail' && result}
              <p class="band {result.arrived ? 'sea' : 'brick'}" role="status">
                <b>{result.arrived ? 'Sent' : 'Not sent'}</b><span>{result.words}</span>
              </p>
            {/if}
          </div>
        </li>
      {/each}
    </ol>
    {#if sample === 'laid in' && may('look after projects')}
      <p class="quiet">
        The sample tasks are yours to try rules on.
        <button class="button" form="sample-out">Remove the sample tasks</button>
      </p>
    {/if}
    <form id="sample-in" method="POST" action="/?/sample" use:enhance={submitDone(done)}></form>
    <form id="sample-out" method="POST" action="/?/unsample" use:enhance={submitDone(done)}></form>
    <form id="week-is-right" method="POST" action="/?/week" use:enhance={submitDone(done)}></form>
  </section>
{/if}

<style>
  .start {
    padding: 14px 18px;
    margin: 12px 0 18px;
  }
  .head {
    display: flex;
    justify-content: space-between;
    align-items: center;
  }
  ol {
    margin-top: 6px;
    display: grid;
    gap: 10px;
  }
  li {
    display: flex;
    gap: 10px;
  }
  li.done b {
    font-weight: 500;
  }
  .how {
    margin-top: 3px;
    font-size: 13px;
    line-height: 32px;
  }
  .how .button {
    margin-inline: 2px;
    line-height: 1.2;
  }
  .band {
    margin-top: 6px;
  }
  .tick {
    color: var(--brass);
  }
  kbd {
    border: 1px solid var(--line);
    border-radius: 4px;
    padding: 0 5px;
    font-size: 12px;
  }
</style>
