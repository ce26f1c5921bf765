<script lang="ts">
  import TaskMarks from '$lib/ui/task/TaskMarks.svelte';
  import type { ProjectDetailView } from '$lib/view/projects.ts';

  /** The open tasks of a project, the soonest first. */
  let { project }: { project: ProjectDetailView } = $props();
  const { row } = $derived(project);
</script>

<section aria-labelledby="its-tasks">
  <h2 id="its-tasks">Its tasks</h2>
  {#if project.tasks.length === 0}
    <p class="quiet">No task of it is open.</p>
  {:else}
    <table>
      <caption class="sr">Open tasks, the soonest first</caption>
      <thead><tr><th>Task</th><th>Owner</th><th>Due</th><th>Status</th></tr></thead>
      <tbody>
        {#each project.tasks as task (task.id)}
          <tr>
            <td
              ><a href="/tasks/{task.id}" dir="auto">{task.name}</a><TaskMarks
                row={task}
                quiet
              />{#if task.section}<span class="quiet block">{task.section}</span>{/if}</td
            >
            <td
              >{#if task.owner}{task.owner}{:else}<span class="quiet">no owner</span>{/if}</td
            >
            <td class="due"
              >{#if task.due}{task.due}{#if task.left}<span
                    class="block"
                    class:quiet={!task.overdue}
                    class:brick-text={task.overdue}>{task.left}</span
                  >{/if}{:else}<span class="quiet">no date</span>{/if}</td
            >
            <td>{task.status}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if row.open > project.tasks.length}<p class="more">
        <a href="/tasks?project={row.id}">All {row.open} open tasks</a>
      </p>{/if}
  {/if}
</section>

<style>
  .due {
    white-space: nowrap;
  }
  .block {
    display: block;
    font-size: 12.5px;
  }
  .more {
    margin: 6px 0 0;
    font-size: 13px;
  }
</style>
