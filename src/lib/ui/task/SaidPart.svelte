<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import Acknowledge from '$lib/ui/ladder/Acknowledge.svelte';
  import RungMark from '$lib/ui/ladder/RungMark.svelte';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';

  /** Where a late task stands on its ladders, and what was promised of it. */
  interface Props {
    task: TaskDetailView;
    errors: Record<string, string>;
    ondone: (done: Done) => void;
  }

  let { task, errors, ondone }: Props = $props();
  const said = $derived(task.said);
  const act = (name: string) => `/tasks/${task.id}?/${name}`;
</script>

{#if said.offered || said.stuck || said.lines.length > 0 || said.ladders.length > 0}
  <div class="said">
    <h4>Escalation</h4>
    {#each said.ladders as row (row.ruleId)}
      <p class="ladder">
        <RungMark number={row.rung?.number ?? 0} of={row.rungs} />
        <span>
          {row.rung ? `Level ${row.rung.number} of ${row.rungs} since ${row.rung.at}` : 'Level 1 not reached'}
          of “{row.rule}”{#if row.still}, <span class="slate-text"
              >paused: {row.still.why}{row.still.until ? ` until ${row.still.until}` : ''}</span
            >{/if}{#if row.next}; level {row.next.rung}{row.next.again ? ' again' : ''} on {row.next.time
              .there}
            {row.next.time.place}{row.next.time.here ? `, ${row.next.time.here} here` : ''}{row.next.who
              .length > 0
              ? `, to ${row.next.who.join(', ')}`
              : ''}{/if}.
          {#if !row.escalatesTo}<span class="brick-text">Nobody to escalate to.</span>{/if}
        </span>
      </p>
    {/each}
    {#if said.stuck}<p class="quiet">{said.stuck}</p>{/if}
    <ul>
      {#each said.lines as line (line.id)}
        <li>
          <span>{line.words}; <span class="quiet">{line.became}</span></span>
          {#if line.mayAnswer}
            <form method="POST" action={act('answerPromise')} use:enhance={submitDone(ondone)}>
              <input type="hidden" name="promise" value={line.id} />
              <button class="button main" name="answer" value="yes">Yes</button>
              <button class="button" name="answer" value="no">No</button>
            </form>
          {/if}
        </li>
      {/each}
    </ul>
    {#if said.offered}
      <Acknowledge
        action={act('acknowledge')}
        taskId={task.id}
        task={task.row.name}
        today={said.today}
        nextDay={said.nextDay}
        error={Object.values(errors)[0] ?? null}
        {ondone}
      />
    {/if}
  </div>
{/if}

<style>
  .said {
    display: grid;
    gap: 6px;
    padding: 6px 0 10px;
  }
  h4 {
    font-weight: 600;
    font-size: 13px;
  }
  .ladder {
    display: flex;
    gap: 10px;
    align-items: flex-start;
  }
  ul {
    list-style: none;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 4px;
  }
  li,
  form {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }
</style>
