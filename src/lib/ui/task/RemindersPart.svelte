<script lang="ts">
  import { agree } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { REMINDER_OFFSETS } from '$lib/core/forecast/facts/reminders.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';
  import TakeBack from './TakeBack.svelte';
  import DateField from '../form/date/DateField.svelte';

  /** Reminders set on the task itself, for oneself or for whoever owns it. */
  interface Props {
    task: TaskDetailView;
    errors: Record<string, string>;
    ondone: (done: Done) => void;
  }

  let { task, errors, ondone }: Props = $props();
  let when = $state('');
  let opened = $state(false);
  let time: string | null = $state('09:00');

  const WORDS: Record<string, string> = {
    minute: 'minute',
    hour: 'hour',
    day: 'day',
    workday: 'working day'
  };
  const words = (n: number, unit: string) =>
    n === 0
      ? task.values.dueTime
        ? 'at the due time'
        : 'on the day it is due'
      : `${n} ${WORDS[unit]}${agree(n, '', 's')} before it is due`;
</script>

<div class="reminders">
  <h4>Reminders on this task</h4>
  {#if task.reminders.length === 0}<span class="quiet">none</span>{/if}
  <ul>
    {#each task.reminders as reminder (reminder.id)}
      <li>
        {reminder.words}, for {reminder.mine ? 'you' : reminder.whose}
        {#if task.editable || reminder.mine}
          <TakeBack
            action="/tasks/{task.id}?/dropReminder"
            name="reminder"
            id={reminder.id}
            label="Remove the reminder {reminder.words}"
            {ondone}
          />
        {/if}
      </li>
    {/each}
  </ul>
  {#if task.editable}
    <details bind:open={opened}>
      <summary class="quiet">Add a reminder</summary>
      <form
        class="row"
        method="POST"
        action="/tasks/{task.id}?/remind"
        use:enhance={submitDone((done) => {
          opened = false;
          ondone(done);
        })}
      >
        <select class="value" name="whose" aria-label="For whom the reminder is">
          <option value="mine">for me</option><option value="owner">for the owner</option>
        </select>
        <select class="value" name="when" aria-label="When the reminder rings" bind:value={when}>
          <option value="" disabled>when</option>
          {#if task.values.dueDate}
            {#each REMINDER_OFFSETS as [n, unit] (`${n}${unit}`)}<option value="due/{-n}/{unit}"
                >{words(n, unit)}</option
              >{/each}
          {/if}
          <option value="moment">at a date and time</option>
        </select>
        {#if when === 'moment'}
          <DateField name="date" label="Date of the reminder" required />
          <TimeField
            class="value"
            name="time"
            label="Time of the reminder"
            value={time}
            onchange={(typed) => (time = typed)}
          />
        {/if}
        <button class="button" disabled={when === ''}>Add reminder</button>
      </form>
      {#if errors[''] || errors.timing || errors.date || errors.time}<p class="fault" role="alert">
          {errors[''] ?? errors.timing ?? errors.date ?? errors.time}
        </p>{/if}
    </details>
  {/if}
</div>

<style>
  .reminders {
    margin-top: 12px;
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
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 6px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
    text-decoration: underline;
    text-decoration-color: var(--line);
  }
</style>
