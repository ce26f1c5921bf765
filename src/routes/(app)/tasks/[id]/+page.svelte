<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import BellTable from '$lib/ui/bell/BellTable.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import TaskForm from '$lib/ui/task/TaskForm.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const failed = $derived(form && 'errors' in form ? form : null);
  const sent = $derived(
    data.past.filter(({ state }) => state !== 'unrung' && state !== 'withdrawn').map(({ bell }) => bell)
  );
  const silent = $derived(
    data.past.filter(({ state }) => state === 'unrung' || state === 'withdrawn').map(({ bell }) => bell)
  );
</script>

<svelte:head><title>{data.row.name} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/tasks">Tasks</a></p>
<h1 class="mb-1 [overflow-wrap:anywhere]">{data.row.name}</h1>
<p>
  <span class:brick-text={data.row.overdue}>{data.row.left ?? data.row.status}</span>
  {#if data.originalDue}<span class="quiet">
      · first due {data.originalDue}, moved later {data.row.slips}
      {data.row.slips === 1 ? 'time' : 'times'}</span
    >{/if}
  <span class="quiet"> · came in {data.created}</span>
</p>
{#if data.dueMoment}
  <details class="quiet mb-4">
    <summary>its date is over on {data.dueMoment}, press for why</summary>
    <ol>
      {#each data.dueWhy as step, i (i)}<li>{step}</li>{/each}
    </ol>
  </details>
{/if}

<div class="columns">
  <section>
    <h2>Its bells</h2>
    {#if data.coming.length > 0}
      <BellTable bells={data.coming} caption="Bells to come" showTask={false} />
    {:else}
      <p class="quiet">No rule that is on will ring for this task.</p>
    {/if}
    {#if sent.length > 0}
      <h2 class="mt-4">Sent</h2>
      <BellTable bells={sent} caption="Notices that were sent" showTask={false} />
    {/if}
    {#if silent.length > 0}
      <h2 class="mt-4">Unrung and withdrawn</h2>
      <BellTable bells={silent} caption="Notices that were not sent" showTask={false} />
    {/if}
  </section>
  <section>
    <h2>The task</h2>
    <form method="POST" use:enhance={submitDone(done)} class="grid gap-4">
      <fieldset disabled={!data.editable}>
        <TaskForm
          values={failed?.values ?? data.values}
          choices={data.choices}
          errors={failed?.errors ?? {}}
        />
      </fieldset>
      {#if data.editable}<p><button class="button main">Save</button></p>
      {:else}<p class="quiet">
          It is somebody else’s: you can read it, and its owner or a coordinator can change it.
        </p>{/if}
    </form>
  </section>
</div>

<style>
  summary {
    cursor: pointer;
    width: fit-content;
  }
  ol {
    list-style: decimal;
    padding-left: 34px;
  }
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
    gap: 28px;
  }
  h2 {
    margin-bottom: 8px;
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
