<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';
  import Part from './Part.svelte';
  import TakeBack from './TakeBack.svelte';

  /** What was said about the task, and the time that was spent on it. */
  interface Props {
    task: TaskDetailView;
    part: string | null;
    errors: Record<string, string>;
    ondone: (done: Done) => void;
  }

  let { task, part, errors, ondone }: Props = $props();
  let comment: HTMLFormElement | undefined = $state();
  let time: HTMLFormElement | undefined = $state();
  const logged = $derived(task.times.reduce((sum, { minutes }) => sum + minutes, 0));
  const length = (minutes: number) => `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
  const fault = (of: string) => (part === of ? (Object.values(errors)[0] ?? null) : null);
</script>

<Part title="Comments">
  <ul>
    {#each task.comments as { id, by, at, text, mine } (id)}
      <li>
        <div class="quiet who">
          {by}, {at}
          {#if mine}<TakeBack
              action="/tasks/{task.id}?/dropComment"
              name="comment"
              {id}
              label="Remove your comment of {at}"
              {ondone}
            />{/if}
        </div>
        <p class="text" dir="auto">{text}</p>
      </li>
    {/each}
  </ul>
  {#if task.editable}
    <form
      bind:this={comment}
      class="row"
      data-act="comment"
      method="POST"
      action="/tasks/{task.id}?/comment"
      use:enhance={submitDone((done) => {
        comment?.reset();
        ondone(done);
      })}
    >
      <textarea class="value grow" name="text" rows="2" aria-label="A comment" dir="auto"></textarea>
      <button class="button">Add comment</button>
    </form>
    {#if fault('comment')}<p class="fault" role="alert">{fault('comment')}</p>{/if}
  {/if}
</Part>

<Part title="Time">
  <span class="quiet"
    >{logged > 0
      ? `${length(logged)} hours logged`
      : task.values.logTime
        ? 'required, none logged'
        : 'none logged'}</span
  >
  <ul>
    {#each task.times as { id, by, at, minutes, note } (id)}
      <li class="entry">
        <b>{length(minutes)}</b>
        {by} <span class="quiet">{at}</span>
        {note}
        {#if task.editable}<TakeBack
            action="/tasks/{task.id}?/dropTime"
            name="entry"
            {id}
            label="Remove the {length(minutes)} of {at}"
            {ondone}
          />{/if}
      </li>
    {/each}
  </ul>
  {#if task.editable}
    <form
      bind:this={time}
      class="row"
      method="POST"
      action="/tasks/{task.id}?/logTime"
      use:enhance={submitDone((done) => {
        time?.reset();
        ondone(done);
      })}
    >
      <input class="value short" name="time" aria-label="Time spent" placeholder="1:30" />
      <input class="value grow" name="note" aria-label="On what" placeholder="on what" />
      <button class="button">Log time</button>
    </form>
    {#if fault('time')}<p class="fault" role="alert">{fault('time')}</p>{/if}
  {/if}
</Part>

<style>
  li {
    padding: 4px 0;
  }
  .who,
  .entry {
    display: flex;
    gap: 8px;
    align-items: center;
    font-size: 13px;
  }
  .text {
    font-size: 14px;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
  }
  .short {
    width: 80px;
  }
</style>
