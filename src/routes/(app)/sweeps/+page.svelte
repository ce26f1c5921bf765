<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { SWEEP_ACTS } from '$lib/core/sweep/model.ts';
  import { ACT_WORDS } from '$lib/core/sweep/words.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import SweepChart from '$lib/ui/sweep/SweepChart.svelte';
  import SweepNow from '$lib/ui/sweep/SweepNow.svelte';
  import SweepReports from '$lib/ui/sweep/SweepReports.svelte';
  import Turn from '$lib/ui/table/Turn.svelte';
  import Under from '$lib/ui/table/Under.svelte';
  import type { PageData } from './$types';
  import { askNow } from './ask-now.ts';

  let { data }: { data: PageData } = $props();
  const done = getContext<(done: Done) => void>('done');
  let form = $state<HTMLFormElement>();
  let act = $state('');
  /** The sweep whose whole sentence is open. */
  let opened = $state<number | null>(null);
  const kinds = SWEEP_ACTS.map((value) => ({ value, label: ACT_WORDS[value] }));

  function add(chosen: string) {
    act = chosen;
    // The field must hold it before the form is sent.
    setTimeout(() => form?.requestSubmit());
  }
</script>

<svelte:head><title>Sweeps · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-center gap-3">
  <h1>Sweeps</h1>
  <span class="quiet ml-auto">Times in {data.place} (your zone)</span>
  <form bind:this={form} method="POST" action="?/add" use:enhance={submitDone(done)}>
    <input type="hidden" name="act" value={act} />
    <AddMenu caption="New sweep" label="New sweep" options={kinds} onadd={add} />
  </form>
</div>
<p class="quiet lead">
  Each sweep shows its list first and can be undone for 30 days. Tasks marked “keep” are never changed. Tasks
  with open subtasks, no completion time or time to log are never closed, archived or purged.
</p>

{#if data.sweeps.length === 0}
  <p class="py-4">No sweeps yet. A new sweep changes nothing until you check its list.</p>
{:else}
  <table class="mt-3">
    <caption class="sr">All sweeps in their order</caption>
    <thead
      ><tr><th>Sweep</th><th>What it does</th><th>State</th><th>Tasks now</th><th>Next</th><th>Last</th></tr
      ></thead
    >
    <tbody>
      {#each data.sweeps as sweep (sweep.id)}
        <tr class="line">
          <td class="what"><a href="/sweeps/{sweep.id}">{sweep.name}</a></td>
          <td
            ><Turn
              open={opened === sweep.id}
              controls="whole-{sweep.id}"
              onpress={() => (opened = opened === sweep.id ? null : sweep.id)}>{ACT_WORDS[sweep.act]}</Turn
            ></td
          >
          <td
            >{#if sweep.state === 'by hand'}<span class="quiet">by hand</span>{:else}<RuleState
                state={sweep.state}
              />{/if}</td
          >
          <td><SweepNow ask={() => askNow(sweep.id, null)} of={sweep} short /></td>
          <td
            >{#if sweep.ahead}<a href="/sweeps/runs/{sweep.ahead.id}">{sweep.ahead.at}</a>
              <span class="quiet">{many(sweep.ahead.count, 'task')}, {sweep.ahead.standing}</span
              >{:else if sweep.next}{sweep.next.runs}{:else}<span class="quiet">none</span>{/if}</td
          >
          <td
            >{#if sweep.last}<a href="/sweeps/runs/{sweep.last.id}">{sweep.last.at}</a>
              <span class="quiet">{many(sweep.last.count, 'task')}</span>{:else}<span class="quiet"
                >never</span
              >{/if}</td
          >
        </tr>
        {#if opened === sweep.id}
          <Under id="whole-{sweep.id}" columns={6}>
            <p>{sweep.sentence}</p>
            {#if sweep.next}<p class="quiet">
                Its list is made {sweep.next.list}, and it runs {sweep.next.runs}.
              </p>{/if}
            <p class="quiet"><SweepNow ask={() => askNow(sweep.id, null)} of={sweep} /></p>
            {#if sweep.last}<p class="quiet">Last run: {sweep.last.at}, {sweep.last.standing}.</p>{/if}
          </Under>
        {/if}
      {/each}
    </tbody>
  </table>
{/if}

<div class="below">
  <section aria-labelledby="reports">
    <h2 id="reports">Reports</h2>
    <SweepReports runs={data.reports} named />
  </section>
  <section aria-labelledby="over-time">
    <h2 id="over-time">Tasks by week</h2>
    <SweepChart bars={data.bars} />
    <p class="quiet">
      {many(data.listed, 'task is', 'tasks are')} in the lists; <a href="/tasks?show=archived">the archive</a>
      can be searched. Tasks can be returned to the list.
      <a href="/tasks/export/tasks.csv?show=archived" download>Export archive (CSV)</a>.
    </p>
  </section>
</div>

<style>
  .lead {
    margin-top: 6px;
    max-width: 760px;
  }
  .what {
    max-width: 300px;
  }
  @media (min-width: 760px) {
    .line td {
      white-space: nowrap;
    }
    .line td.what {
      white-space: normal;
    }
  }
  .below {
    display: grid;
    grid-template-columns: minmax(0, 1.5fr) minmax(280px, 1fr);
    gap: 34px;
    margin-top: 26px;
    align-items: start;
  }
  @media (max-width: 1000px) {
    .below {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
