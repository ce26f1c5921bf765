<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import DateField from '../form/date/DateField.svelte';

  /** Says that late work has been seen, and by when it will be done. */
  interface Props {
    action: string;
    taskId: number;
    task: string;
    today: string;
    /** What is offered first. */
    nextDay: string;
    error: string | null;
    ondone: (done: Done) => void;
  }

  let { action, taskId, task, today, nextDay, error, ondone }: Props = $props();
  let opened = $state(false);
</script>

<details bind:open={opened} data-act="acknowledge">
  <summary>Acknowledge</summary>
  <form
    method="POST"
    {action}
    use:enhance={submitDone((done) => {
      opened = false;
      ondone(done);
    })}
  >
    <input type="hidden" name="task" value={taskId} />
    <label
      ><span class="quiet">Done by</span>
      <DateField name="promised" min={today} value={nextDay} label="By when “{task}” will be done" /></label
    >
    <button class="button main">Promise this date</button>
    <button class="button" name="seen" value="only">Acknowledge only</button>
    {#if error}<p class="brick-text" role="alert">{error}</p>{/if}
  </form>
</details>

<style>
  summary {
    cursor: pointer;
    white-space: nowrap;
    color: var(--brass-ink);
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  form {
    display: flex;
    flex-direction: column;
    gap: 6px;
    align-items: start;
    margin-top: 6px;
  }
  label {
    white-space: nowrap;
    display: inline-flex;
    gap: 6px;
    align-items: center;
  }
  p {
    margin: 0;
    max-width: 200px;
  }
</style>
