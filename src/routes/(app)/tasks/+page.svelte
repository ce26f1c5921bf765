<script lang="ts">
  import Upload from '@lucide/svelte/icons/upload';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import Priority from '$lib/ui/task/Priority.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const may = getContext<(deed: Deed) => boolean>('may');

  const SHOWN = [
    ['open', 'Open'],
    ['overdue', 'Overdue'],
    ['today', 'Due today, where their owner is'],
    ['out of earshot', 'Out of earshot'],
    ['done', 'Finished and closed'],
    ['all', 'All']
  ] as const;
</script>

<svelte:head><title>Tasks · Early Bell</title></svelte:head>

<div class="top">
  <h1>Tasks</h1>
  <span class="quiet">{data.total.toLocaleString('en')} {data.total === 1 ? 'task' : 'tasks'}</span>
  <span class="acts no-print">
    {#if may('bring tasks in')}
      <a class="button" href="/tasks/import"><Upload size={16} strokeWidth={1.75} />Import CSV</a>
    {/if}
  </span>
</div>

<form class="filters no-print" method="GET" data-sveltekit-keepfocus>
  <label class="field">
    <span class="label">Name contains</span>
    <input class="value" type="search" name="text" value={data.query.text} />
  </label>
  <label class="field">
    <span class="label">Show</span>
    <select class="value" name="show" onchange={(event) => event.currentTarget.form?.requestSubmit()}>
      {#each SHOWN as [value, label] (value)}<option {value} selected={data.query.show === value}
          >{label}</option
        >{/each}
    </select>
  </label>
  <label class="field">
    <span class="label">Project</span>
    <select class="value" name="project" onchange={(event) => event.currentTarget.form?.requestSubmit()}>
      <option value="">Every project</option>
      {#each data.choices.projects as { id, name } (id)}<option
          value={id}
          selected={data.query.projectId === id}>{name}</option
        >{/each}
    </select>
  </label>
  <label class="field">
    <span class="label">Owner</span>
    <select class="value" name="owner" onchange={(event) => event.currentTarget.form?.requestSubmit()}>
      <option value="">Everybody</option>
      {#each data.choices.people as { id, name } (id)}<option value={id} selected={data.query.ownerId === id}
          >{name}</option
        >{/each}
    </select>
  </label>
  <button class="button">Show</button>
</form>

{#if data.rows.length === 0}
  <p class="empty">
    {#if data.any}No task is like that. <a href="/tasks?show=all">Show all tasks</a>.
    {:else}There are no tasks yet.
      {#if may('bring tasks in')}<a href="/tasks/import">Bring them in from a CSV file</a>, or{/if}
      <a href="/tasks/new">add one</a>.{/if}
  </p>
{:else}
  <table>
    <caption class="sr">Tasks by due date</caption>
    <thead
      ><tr
        ><th>Task</th><th>Owner</th><th>Due</th><th>Left</th><th>Status</th><th>Priority</th><th>Project</th
        ></tr
      ></thead
    >
    <tbody>
      {#each data.rows as row (row.id)}
        <tr>
          <td class="name"
            ><a href="/tasks/{row.id}">{row.name}</a>{#if row.private}<span class="quiet block"
                >private: only you see it</span
              >{/if}</td
          >
          <td
            >{#if row.owner}{row.owner} <span class="quiet">{row.ownerPlace}</span>{:else}<span
                class="slate-text">no owner</span
              >{/if}</td
          >
          <td
            >{#if row.due}{row.due}{:else}<span class="slate-text">no date</span>{/if}{#if row.slips > 0}<span
                class="quiet block">moved later {row.slips} {row.slips === 1 ? 'time' : 'times'}</span
              >{/if}</td
          >
          <td class="whitespace-nowrap" class:brick-text={row.overdue}>{row.left ?? ''}</td>
          <td>{row.status}</td>
          <td><Priority priority={row.priority} notches={row.notches} /></td>
          <td>{row.project ?? ''}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if data.query.after}<p class="pages"><a href="/tasks">Back to the beginning</a></p>{/if}
  {#if data.nextPage}<p class="pages">
      <a class="button" href={data.nextPage}>The next {data.rows.length}</a>
    </p>{/if}
{/if}

<style>
  .top {
    display: flex;
    align-items: baseline;
    gap: 14px;
    margin-bottom: 12px;
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
  .filters {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: end;
    padding-bottom: 14px;
  }
  .filters select {
    max-width: 200px;
  }
  .name {
    max-width: 380px;
    overflow-wrap: anywhere;
  }
  .block {
    display: block;
  }
  .empty,
  .pages {
    padding: 16px 0;
  }
</style>
