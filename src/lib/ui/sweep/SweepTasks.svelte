<script lang="ts">
  import type { SweepTaskView } from '$lib/view/sweeps.ts';

  /** The tasks of a run; while it can still be changed each can be left out. */
  interface Props {
    tasks: readonly SweepTaskView[];
    /** Leaves tasks out, or takes them again; absent once that is settled. */
    ontick?: (ids: number[], ticked: boolean) => void;
  }

  let { tasks, ontick }: Props = $props();
  const all = $derived(tasks.every(({ ticked }) => ticked));
  const hasReasons = $derived(tasks.some(({ reason }) => reason));
</script>

<table>
  <caption class="sr">Tasks of this run</caption>
  <thead
    ><tr>
      {#if ontick}<th
          ><input
            type="checkbox"
            aria-label="All that are shown"
            checked={all}
            onchange={() =>
              ontick?.(
                tasks.map(({ taskId }) => taskId),
                !all
              )}
          /></th
        >{/if}
      <th>Task</th><th>Owner</th><th>Project</th><th>Since</th>{#if hasReasons}<th>Why</th>{/if}
    </tr></thead
  >
  <tbody>
    {#each tasks as task (task.taskId)}
      <tr class:out={!task.ticked}>
        {#if ontick}<td
            ><input
              type="checkbox"
              aria-label={task.name}
              checked={task.ticked}
              onchange={() => ontick?.([task.taskId], !task.ticked)}
            /></td
          >{/if}
        <td><a href="/tasks/{task.taskId}">{task.name}</a></td>
        <td>{task.owner}</td>
        <td>{task.project}</td>
        <td class="whitespace-nowrap">{task.since}</td>
        {#if hasReasons}<td class="quiet">{task.reason ?? ''}</td>{/if}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  .out a {
    text-decoration: line-through;
    color: var(--ink-3);
  }
</style>
