<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const may = getContext<(deed: Deed) => boolean>('may');
  const done = getContext<(done: Done) => void>('done');
  const fault = $derived(form && 'errors' in form ? Object.values(form.errors ?? {})[0] : null);
  const names = (members: string[]) =>
    members.length > 4
      ? `${members.slice(0, 4).join(', ')} and ${members.length - 4} more`
      : members.join(', ');
</script>

<svelte:head><title>Projects · Early Bell</title></svelte:head>

<div class="top">
  <h1>Projects</h1>
  {#if may('look after projects')}
    <form method="POST" action="?/add" use:enhance={submitDone(done)}>
      <input class="value" name="name" aria-label="Name of a new project" placeholder="a new project" />
      <button class="button">Add project</button>
      {#if fault}<span class="fault" role="alert">{fault}</span>{/if}
    </form>
  {/if}
</div>

{#if data.projects.length === 0}
  <p>There are no projects{may('look after projects') ? ' yet: name the first one above.' : ' of yours.'}</p>
{:else}
  <table>
    <caption class="sr">Projects</caption>
    <thead
      ><tr
        ><th>Project</th><th>State</th><th>Open</th><th>Overdue</th><th>Done</th><th>Dates</th><th>Members</th
        ><th>Rules</th></tr
      ></thead
    >
    <tbody>
      {#each data.projects as project (project.id)}
        <tr>
          <td class="name"
            ><a href="/projects/{project.id}">{project.name}</a>{#if project.register}<span
                class="quiet block">register: dates only</span
              >{/if}</td
          >
          <td class:slate-text={project.state !== 'open'}>{project.state}</td>
          <td><a href="/tasks?project={project.id}">{project.open}</a></td>
          <td
            >{#if project.overdue > 0}<a class="brick-text" href="/tasks?project={project.id}&show=overdue"
                >{project.overdue} overdue</a
              >{:else}<span class="quiet">none</span>{/if}</td
          >
          <td><a href="/tasks?project={project.id}&show=done">{project.done}</a></td>
          <td
            >{#if project.pinned}fixed: {project.place}{:else}owner’s time zone{#if project.place}<span
                  class="quiet block">else {project.place}</span
                >{/if}{/if}</td
          >
          <td>{names(project.members)}</td>
          <td>{project.rules}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

<style>
  .top {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    justify-content: space-between;
    gap: 10px;
    margin-bottom: 12px;
  }
  .top form {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .name {
    font-weight: 550;
    overflow-wrap: anywhere;
  }
  .block {
    display: block;
    font-weight: 400;
  }
</style>
