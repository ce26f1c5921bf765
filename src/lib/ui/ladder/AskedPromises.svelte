<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { AskedPromise } from '$lib/view/escalations.ts';

  /** Promises past their deadline, which count once somebody above has said yes. */
  interface Props {
    asked: readonly AskedPromise[];
    error: { promise: number | null; message: string } | null;
    ondone: (done: Done) => void;
  }

  let { asked, error, ondone }: Props = $props();
</script>

<section aria-labelledby="asked">
  <h2 id="asked">Needs approval</h2>
  <ul>
    {#each asked as one (one.id)}
      <li>
        <span
          >{one.who} promises <a href="/tasks/{one.taskId}">{one.task}</a> for <b>{one.promised}</b>; it is
          due on {one.due}{one.left ? ` (${one.left})` : ''}.</span
        >
        {#if one.mayAnswer}
          <form method="POST" action="/escalations?/answer" use:enhance={submitDone(ondone)}>
            <input type="hidden" name="promise" value={one.id} />
            <button class="button main" name="answer" value="yes">Approve</button>
            <button class="button" name="answer" value="no">Refuse</button>
          </form>
        {:else}<span class="quiet">a manager answers</span>{/if}
        {#if error?.promise === one.id}<span class="brick-text" role="alert">{error.message}</span>{/if}
      </li>
    {/each}
  </ul>
</section>

<style>
  section {
    border-left: 3px solid var(--brass);
    padding: 2px 0 4px 14px;
    margin: 12px 0 6px;
  }
  h2 {
    font-size: 15px;
    margin: 0 0 2px;
  }
  ul {
    list-style: none;
    padding: 0;
    margin: 0;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: center;
    padding: 3px 0;
  }
  form {
    display: inline-flex;
    gap: 6px;
  }
</style>
