<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';
  import TakeBack from './TakeBack.svelte';
  import DateField from '../form/date/DateField.svelte';

  /** What rules ask about a task, what can be rung by hand, what is coming from runs that wait, and what keeps it quiet. */
  interface Props {
    task: TaskDetailView;
    errors: Record<string, string>;
    ondone: (done: Done) => void;
  }

  let { task, errors, ondone }: Props = $props();
  const quiet = $derived(task.quiet);
  let opened = $state(false);
  let snoozing = $state(false);
  let time: string | null = $state('09:00');
  const act = (name: string) => `/tasks/${task.id}?/${name}`;
</script>

{#each quiet.questions as question (question.id)}
  <div class="asked">
    <p>
      <b>{question.text}</b>
      <span class="quiet"
        >For {question.asked}. No answer by {question.by} counts as “{question.otherwise}”</span
      >
    </p>
    {#if question.mine}
      <form class="row" method="POST" action={act('answer')} use:enhance={submitDone(ondone)}>
        <input type="hidden" name="question" value={question.id} />
        <button class="button main" name="answer" value="yes">Yes</button>
        <button class="button" name="answer" value="no">No</button>
        <button class="button" name="answer" value="change">I will change the task</button>
      </form>
    {/if}
  </div>
{/each}

{#if quiet.buttons.length > 0}
  <form class="row" method="POST" action={act('ring')} use:enhance={submitDone(ondone)}>
    {#each quiet.buttons as { ruleId, caption } (ruleId)}
      <button class="button" name="rule" value={ruleId}>{caption}</button>
    {/each}
  </form>
{/if}

{#each quiet.runs as run (run.id)}
  <p class="quiet">
    {run.asking ? 'Waits for an answer' : 'Continues'}: the rule “{run.rule}”, {run.asking
      ? `until ${run.until}`
      : run.until}
  </p>
{/each}

<div class="silence">
  <h4>Hush</h4>
  {#if quiet.hushes.length === 0}<span class="quiet">not hushed</span>{/if}
  <ul>
    {#each quiet.hushes as hush (hush.id)}
      <li>
        {hush.of} until the end of {hush.until}, hushed by {hush.by}{hush.note ? `: ${hush.note}` : ''}
        {#if hush.mayEnd}<TakeBack
            action={act('unhush')}
            name="hush"
            id={hush.id}
            label="End the hush"
            {ondone}
          />{/if}
      </li>
    {/each}
  </ul>
  {#if task.editable}
    <details bind:open={opened} data-act="hush">
      <summary class="quiet">Hush this task</summary>
      <form
        class="row"
        method="POST"
        action={act('hush')}
        use:enhance={submitDone((done) => {
          opened = false;
          ondone(done);
        })}
      >
        <DateField name="until" label="Hushed until" min={quiet.tomorrow} value={quiet.tomorrow} required />
        <input class="value grow" name="note" maxlength="200" placeholder="why" aria-label="Reason" />
        <button class="button">Hush</button>
        {#if quiet.waiting > 0}<span class="brick-text"
            >{many(quiet.waiting, 'waiting notice is', 'waiting notices are')} withdrawn and never sent</span
          >{/if}
      </form>
    </details>
  {/if}
  <form method="POST" action={act('reminded')} use:enhance={submitDone(ondone)}>
    <input type="hidden" name="wants" value={quiet.unwanted ? 'yes' : 'no'} />
    <button class="button plain"
      >{quiet.unwanted ? 'Get reminders of this task again' : 'Do not remind me of it'}</button
    >
  </form>
  {#if quiet.snoozable.length > 0}
    <details bind:open={snoozing} data-act="snooze">
      <summary class="quiet">Snooze a notice</summary>
      <form
        class="row"
        method="POST"
        action={act('snooze')}
        use:enhance={submitDone((done) => {
          snoozing = false;
          ondone(done);
        })}
      >
        <select class="value" name="notice" aria-label="Which notice">
          {#each [...quiet.snoozable].reverse() as notice (notice.id)}<option value={notice.id}
              >{notice.rule}, {notice.at}</option
            >{/each}
        </select>
        <DateField name="date" label="Snooze until: date" value={quiet.tomorrow} required />
        <TimeField
          class="value"
          name="time"
          label="Snooze until: time"
          value={time}
          onchange={(typed) => (time = typed)}
        />
        <button class="button">Snooze</button>
      </form>
    </details>
  {/if}
  {#if errors[''] || errors.until || errors.at}<p class="fault" role="alert">
      {errors[''] ?? errors.until ?? errors.at}
    </p>{/if}
</div>

<style>
  .asked {
    border-left: 3px solid var(--brass);
    padding: 6px 10px;
    margin: 8px 0;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 6px;
  }
  .silence {
    margin-top: 10px;
    font-size: 13px;
  }
  h4 {
    font-weight: 600;
    display: inline;
    margin-right: 8px;
  }
  li {
    display: flex;
    align-items: center;
  }
  .grow {
    flex: 1 1 140px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
    text-decoration: underline;
    text-decoration-color: var(--line);
  }
</style>
