<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import RunTable from '$lib/ui/rule/RunTable.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const run = $derived(data.run);
  const TITLES: Record<string, string> = { tell: 'Tell', do: 'Do', wait: 'Wait', branch: 'Branch' };
</script>

<svelte:head><title>A run of {run.rule.name} · Early Bell</title></svelte:head>

<p class="quiet">
  <a href="/rules">Rules</a> · <a href="/rules/{run.rule.id}">{run.rule.name}</a> ·
  <a href="/rules/{run.rule.id}/runs">Runs</a>{#if run.parent !== null}
    · <a href="/rules/{run.rule.id}/runs/{run.parent}">Parent run</a>{/if}
</p>
<h1>Rang {run.at}</h1>
<p>
  {#if run.task}For <a href="/tasks/{run.task.id}">{run.task.name}</a>,{:else}For all watched tasks,{/if}
  {run.lead}; by version {run.rule.version}{run.actor ? `, started by ${run.actor}` : ''}.
  <b class="state">{run.state}</b>{run.until ? ` on ${run.until}` : ''}: {run.outcome}.
</p>
{#if run.setOffBy}<p>
    Started by <a href="/changes/{run.setOffBy.id}">{run.setOffBy.title}</a>{run.setOffBy.undone
      ? ', which was undone'
      : ', where it can be undone'}.
  </p>{/if}

{#if run.stages}
  <section aria-labelledby="stages">
    <h2 id="stages">Stages</h2>
    <dl>
      <dt>looked at</dt>
      <dd>{run.stages.looked}</dd>
      <dt>tasks found</dt>
      <dd>{run.stages.found}</dd>
      <dt>messages left</dt>
      <dd>
        {run.stages.messages}{run.stages.messages > 0
          ? `, to ${many(run.stages.people, 'person', 'people')}`
          : ''}{#if run.stages.expected}<span class="quiet">{` · ${run.stages.expected}`}</span>{/if}
      </dd>
      {#if run.stages.waiting > 0}<dt>notices waiting</dt>
        <dd>{run.stages.waiting}</dd>{/if}
      {#each run.stages.unsent as { reason, count } (reason)}<dt>not sent</dt>
        <dd>{count}: {reason}</dd>{/each}
      {#if run.stages.changes > 0}<dt>changes</dt>
        <dd>{run.stages.changes}</dd>{/if}
    </dl>
    {#if run.stages.excluded.length > 0}
      <p class="quiet">Not matched, by test:</p>
      <ul>
        {#each run.stages.excluded as { test, count } (test)}<li>{count}: {test}</li>{/each}
      </ul>
    {/if}
  </section>
{/if}

{#if run.steps.length > 0}
  <section aria-labelledby="steps">
    <h2 id="steps">Step by step</h2>
    <ol>
      {#each run.steps as step (step.id)}
        <li>
          <p><b>{TITLES[step.kind] ?? step.kind}</b> {step.name} <span class="quiet">{step.at}</span></p>
          <dl>
            {#each step.input as { label, value } (label)}<dt class="quiet">{label}</dt>
              <dd>{value}</dd>{/each}
            {#each step.output as { label, value } (label)}<dt>{label}</dt>
              <dd>{value}</dd>{/each}
          </dl>
        </li>
      {/each}
    </ol>
  </section>
{/if}

{#if run.notices.length > 0}
  <section aria-labelledby="notices">
    <h2 id="notices">Its notices</h2>
    <table>
      <caption class="sr">Notices of this run</caption>
      <thead
        ><tr
          ><th scope="col">To</th><th scope="col">State</th><th scope="col">When</th><th scope="col">Why</th
          ></tr
        ></thead
      >
      <tbody>
        {#each run.notices as notice (notice.id)}
          <tr>
            <td>{notice.person}</td>
            <td
              >{notice.state}{notice.reason ? `: ${notice.reason}` : ''}{notice.inDoubt
                ? ', may have arrived twice'
                : ''}</td
            >
            <td>{notice.at}</td>
            <td class="quiet">{notice.why.join(' ')}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
{/if}

{#if run.changes.length > 0}
  <section aria-labelledby="changes">
    <h2 id="changes">Changes</h2>
    <table>
      <caption class="sr">Changes, task by task</caption>
      <thead><tr><th scope="col">Task</th><th scope="col">What</th><th scope="col">Done by</th></tr></thead>
      <tbody>
        {#each run.changes as change (change.id)}
          <tr>
            <td
              >{#if change.task}<a href="/tasks/{change.task.id}">{change.task.name}</a>{/if}</td
            >
            <td
              >{#each change.values as { field, before, after }, i (i)}<span class="block"
                  >{field}: {before} → {after}</span
                >{/each}</td
            >
            <td class="quiet"
              ><a href="/changes/{change.id}">{change.title}</a>{change.undone ? ', undone' : ''}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
{/if}

{#if run.children.length > 0}
  <section aria-labelledby="children">
    <h2 id="children">Per task</h2>
    <RunTable runs={run.children} ruleId={run.rule.id} caption="Runs of this ring, one per task" />
  </section>
{/if}

<style>
  .state::first-letter {
    text-transform: uppercase;
  }
  .state {
    display: inline-block;
  }
  section {
    border-top: 1px solid var(--line);
    padding: 12px 0;
    margin-top: 12px;
  }
  dl {
    display: grid;
    grid-template-columns: 120px minmax(0, 1fr);
    gap: 2px 12px;
    margin: 4px 0 8px;
    font-size: 13px;
  }
  ol {
    list-style: decimal;
    padding-left: 20px;
  }
  .block {
    display: block;
  }
  ul {
    list-style: disc;
    padding-left: 20px;
  }
</style>
