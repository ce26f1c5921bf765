<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { LoudDay, OverdueBand, SlippingTask, StuckPerson } from '$lib/view/tower.ts';
  import AgeBars from './AgeBars.svelte';

  /** What wants a look besides the counts: how old what is late is, who waits, what slips, whose day is too loud. */
  interface Props {
    byAge: readonly OverdueBand[];
    stuck: readonly StuckPerson[];
    slipping: { count: number; tasks: readonly SlippingTask[] };
    loud: readonly LoudDay[];
  }

  let { byAge, stuck, slipping, loud }: Props = $props();
  const late = $derived(byAge.some(({ count }) => count > 0));
  const days = (n: number) => many(n, 'working day');
</script>

<div class="attention">
  <section aria-labelledby="by-age">
    <h2 id="by-age">Overdue by working days</h2>
    {#if late}<AgeBars bands={byAge} />{:else}<p class="quiet">Nothing is overdue.</p>{/if}
  </section>
  <section aria-labelledby="stuck">
    <h2 id="stuck">Stuck on others</h2>
    {#if stuck.length === 0}<p class="quiet">No task is stuck.</p>{/if}
    <ul>
      {#each stuck.slice(0, 6) as one (one.personId)}
        <li>
          <a href="/tasks?show=stuck&owner={one.personId ?? 'none'}">{one.name}</a>
          <span class="quiet"
            >{many(one.count, 'task')}, the longest {one.workingDays === 0
              ? 'since today'
              : `for ${days(one.workingDays)}`}</span
          >
        </li>
      {/each}
    </ul>
  </section>
  <section aria-labelledby="slipping">
    <h2 id="slipping">Often postponed</h2>
    {#if slipping.count === 0}<p class="quiet">No open task was postponed twice.</p>{/if}
    <ul>
      {#each slipping.tasks as task (task.id)}
        <li>
          <a href="/tasks/{task.id}">{task.name}</a> <span class="quiet">postponed {task.slips} times</span>
        </li>
      {/each}
    </ul>
    {#if slipping.count > slipping.tasks.length}
      <a class="more" href="/tasks?sort=slips&order=down">all {slipping.count}</a>
    {/if}
  </section>
  <section aria-labelledby="loud">
    <h2 id="loud">Too many notices</h2>
    {#if loud.length === 0}<p class="quiet">Nobody is over their daily limit in the next 7 days.</p>{/if}
    <ul>
      {#each loud as one (`${one.personId} ${one.day}`)}
        <li>
          <a href="/people/{one.personId}">{one.name}</a>
          <span class="quiet"
            >{one.day}: {many(one.count, 'notice')}{one.cap === null
              ? ', no daily limit'
              : `, limit ${one.cap}; the rest comes in one message`}</span
          >
        </li>
      {/each}
    </ul>
  </section>
</div>

<style>
  .attention {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
    gap: 14px 28px;
    border-top: 1px solid var(--line);
    padding-top: 12px;
    margin-bottom: 20px;
  }
  ul {
    margin-top: 4px;
    display: grid;
    gap: 5px;
    font-size: 13px;
  }
  li .quiet {
    display: block;
  }
  .more {
    font-size: 13px;
  }
  p {
    margin-top: 4px;
    font-size: 13px;
  }
</style>
