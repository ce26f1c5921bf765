<script lang="ts">
  import type { DigestRunView } from '$lib/view/digests.ts';

  /** What became of the last ones. */
  let { runs }: { runs: readonly DigestRunView[] } = $props();
</script>

<section aria-labelledby="runs">
  <h2 id="runs">Last digests</h2>
  {#if runs.length === 0}
    <p class="quiet">None sent yet.</p>
  {:else}
    <table>
      <caption class="sr">The last digests, newest first</caption>
      <thead><tr><th>Moment</th><th>To</th><th>Result</th><th>Being sent</th></tr></thead>
      <tbody>
        {#each runs as run (run.id)}
          <tr>
            <td class="whitespace-nowrap">{run.at}</td>
            <td>{run.reader}</td>
            <td class:brick-text={run.became === 'failed'}
              >{run.became}{#if run.subject}<span class="quiet block">{run.subject}</span>{/if}</td
            >
            <td class="quiet">{run.stages}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</section>

<style>
  section {
    margin-top: 24px;
  }
  table {
    margin-top: 6px;
    font-size: 13px;
  }
</style>
