<script lang="ts">
  import type { RunRowView } from '$lib/view/runs.ts';

  /** Runs of a rule: when, for which task, and what each came to. */
  interface Props {
    runs: readonly RunRowView[];
    ruleId: number;
    caption: string;
  }

  let { runs, ruleId, caption }: Props = $props();
</script>

<table>
  <caption class="sr">{caption}</caption>
  <thead>
    <tr
      ><th scope="col">Rang</th><th scope="col">Task</th><th scope="col">Ring time</th><th scope="col"
        >State</th
      ><th scope="col">Result</th></tr
    >
  </thead>
  <tbody>
    {#each runs as run (run.id)}
      <tr>
        <td><a href="/rules/{ruleId}/runs/{run.id}">{run.at}</a></td>
        <td>
          {#if run.task}<a href="/tasks/{run.task.id}">{run.task.name}</a>{:else}<span class="quiet"
              >all watched tasks</span
            >{/if}
        </td>
        <td class="quiet">{run.lead}</td>
        <td>{run.state}</td>
        <td>{run.outcome}</td>
      </tr>
    {/each}
  </tbody>
</table>
