<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { page } from '$app/state';
  import { getContext } from 'svelte';
  import type { Done } from '$lib/ui/form/submit.ts';
  import Acknowledge from '$lib/ui/ladder/Acknowledge.svelte';
  import AskedPromises from '$lib/ui/ladder/AskedPromises.svelte';
  import RungMark from '$lib/ui/ladder/RungMark.svelte';
  import AddressSelect from '$lib/ui/record/AddressSelect.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import { ONLY_WORDS } from '$lib/view/escalations.ts';
  import { named, withParameter } from '$lib/ui/record/address.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  const ONLY = wordOptions(ONLY_WORDS);
  const paged = (number: number) => withParameter(page.url, 'page', number > 1 ? String(number) : '');
  const failed = $derived(form && 'errors' in form ? (form as unknown as Failed) : null);
  interface Failed {
    errors: Record<string, string>;
    values: { taskId?: number; promise?: number | null };
  }
  const errorOf = (taskId: number) =>
    failed?.values.taskId === taskId ? (Object.values(failed.errors)[0] ?? null) : null;
  const answerError = $derived(
    failed && failed.values.promise !== undefined
      ? { promise: failed.values.promise, message: Object.values(failed.errors)[0] ?? '' }
      : null
  );
</script>

<svelte:head><title>Escalations · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Escalations</h1>
  <span class="quiet"
    >{many(data.total, 'task')} on a ladder{data.nobodyAbove > 0
      ? `, ${data.nobodyAbove} with nobody to escalate to`
      : ''}</span
  >
  <span class="quiet ml-auto">Times in the owner’s zone and in {data.place} (your zone)</span>
</div>

{#each data.circles as circle (circle.join())}
  <p class="band brick">
    <b>Managers in a circle</b>
    <span
      >{circle.join(' → ')} → {circle[0]}: the coordinators are told instead.
      <a href="/people">Correct it in People</a>.</span
    >
  </p>
{/each}

{#if data.asked.length > 0}<AskedPromises asked={data.asked} error={answerError} ondone={done} />{/if}

{#if data.rules.length === 0}
  <p class="py-4">
    No rule with a ladder is on.
    {#if data.makesRules}
      <a href="/rules/starters">Use “Escalate overdue work”</a>, or add levels to a rule.
    {:else}A coordinator can turn one on.{/if}
  </p>
{:else}
  <div class="filters no-print" role="search">
    <AddressSelect name="only" label="Filter" any="all" options={ONLY} />
    <AddressSelect name="rule" label="Rule" any="any ladder" options={named(data.rules, '')} />
    <AddressSelect name="person" label="Owner" any="anybody’s" options={named(data.people, '')} />
  </div>
  {#if data.rows.length === 0}
    <p class="py-4">No task matches these filters.</p>
  {:else}
    <table class="mt-2">
      <caption class="sr">Tasks on ladders, longest overdue first</caption>
      <thead
        ><tr
          ><th>Task</th><th>Owner</th><th>Level</th><th>Since</th><th>Next bell</th><th
            ><span class="sr">Acknowledge</span></th
          ></tr
        ></thead
      >
      <tbody>
        {#each data.rows as row (`${row.ruleId}/${row.taskId}`)}
          <tr>
            <td
              ><a href="/tasks/{row.taskId}">{row.task}</a>
              <span class="quiet block"
                >{row.project ?? 'no project'}, {#if data.makesRules}<a href="/rules/{row.ruleId}"
                    >{row.rule}</a
                  >{:else}{row.rule}{/if}</span
              ></td
            >
            <td
              >{row.owner ?? 'no owner'}
              {#if row.escalatesTo}<span class="quiet block">escalates to: {row.escalatesTo}</span>
              {:else}<span class="block brick-text">nobody to escalate to</span>{/if}</td
            >
            <td
              ><span class="rung"
                >{#if row.rung}<RungMark number={row.rung.number} of={row.rungs} /><span
                    >{row.rung.number} of {row.rungs}<span class="quiet block">{row.rung.at}</span></span
                  >{:else}<span class="quiet">not at level 1 yet</span>{/if}</span
              ></td
            >
            <td
              ><span class="brick-text">{row.since}</span>
              <span class="quiet block">{row.onClock} counted{row.startedBy ? `, ${row.startedBy}` : ''}</span
              ></td
            >
            <td>
              {#if row.still}
                <span class="still"
                  >paused: {row.still.why}{row.still.until ? ` until ${row.still.until}` : ''}</span
                >
              {/if}
              {#if row.promised}
                <span class="block">{row.promised.who} promised {row.promised.day}</span>
              {/if}
              {#if row.next}
                <span class="block"
                  >{row.next.time.there}
                  <span class="quiet"
                    >{row.next.time.place}{row.next.time.here ? `, ${row.next.time.here} here` : ''}</span
                  ></span
                >
                <span class="quiet block"
                  >level {row.next.rung}{row.next.again ? ' again' : ''}{row.next.who.length > 0
                    ? `, to ${row.next.who.join(', ')}`
                    : ''}</span
                >
              {:else if !row.still}<span class="quiet">top level</span>{/if}
            </td>
            <td>
              {#if row.mayAcknowledge}
                <Acknowledge
                  action="/escalations?/acknowledge"
                  taskId={row.taskId}
                  task={row.task}
                  today={data.today}
                  nextDay={data.nextDay}
                  error={errorOf(row.taskId)}
                  ondone={done}
                />
              {/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if data.pages > 1}
      <p class="pages no-print">
        {#if data.page > 1}<a class="button" href={paged(data.page - 1)}>Back</a>{/if}
        <span class="quiet">page {data.page} of {data.pages}</span>
        {#if data.page < data.pages}<a class="button" href={paged(data.page + 1)}>On</a>{/if}
      </p>
    {/if}
  {/if}
{/if}

<style>
  .filters {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 8px;
    margin: 10px 0 4px;
  }
  td {
    vertical-align: top;
  }
  table {
    table-layout: fixed;
  }
  th:nth-child(1) {
    width: 20%;
  }
  th:nth-child(2) {
    width: 15%;
  }
  th:nth-child(3) {
    width: 150px;
  }
  th:nth-child(4) {
    width: 14%;
  }
  th:last-child {
    width: 186px;
  }
  .rung {
    display: flex;
    gap: 8px;
    align-items: flex-end;
    white-space: nowrap;
  }
  .still {
    color: var(--slate);
    font-weight: 550;
  }
  .band {
    display: flex;
    gap: 10px;
  }
  .pages {
    display: flex;
    gap: 8px;
    align-items: center;
    margin-top: 12px;
  }
  /* Less room, as at twice the size or on paper: the columns that say when come first. */
  @media (max-width: 1000px) {
    th:nth-child(3) {
      width: 108px;
    }
    th:last-child {
      width: 104px;
    }
    .rung {
      flex-wrap: wrap;
      white-space: normal;
    }
  }
  @media print {
    th:last-child,
    td:last-child {
      display: none;
    }
  }
</style>
