<script lang="ts">
  import type { SweepRunRowView } from '$lib/view/sweeps.ts';

  /** Runs of sweeps, the newest first. */
  interface Props {
    runs: readonly SweepRunRowView[];
    /** With which sweep it was. */
    named?: boolean;
  }

  let { runs, named = false }: Props = $props();
</script>

{#if runs.length === 0}
  <p class="quiet">No sweep has run yet.</p>
{:else}
  <table>
    <caption class="sr">Runs, newest first</caption>
    <thead
      ><tr
        ><th>For</th>{#if named}<th>Sweep</th>{/if}<th>Tasks</th><th>Result</th></tr
      ></thead
    >
    <tbody>
      {#each runs as run (run.id)}
        <tr>
          <td class="whitespace-nowrap"><a href="/sweeps/runs/{run.id}">{run.at}</a></td>
          {#if named}<td>{run.sweep}</td>{/if}
          <td class="number">{run.count}</td>
          <td
            >{run.standing}{#if run.left > 0}, {run.left} skipped{/if}{#if run.reason}<span
                class="quiet block">{run.reason}</span
              >{/if}{#if run.measured}<span class="quiet block">{run.measured}</span>{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

<style>
  .number {
    text-align: right;
    padding-right: 22px;
  }
</style>
