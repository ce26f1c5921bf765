<script lang="ts">
  import type { PageData } from './$types';

  /** How many tasks a run looked at, left out for which reason, and took. */
  let { run }: Pick<PageData, 'run'> = $props();
</script>

<dl class="stages">
  <div>
    <dt>checked</dt>
    <dd>{run.looked}</dd>
  </div>
  <div>
    <dt>not yet</dt>
    <dd>{run.waiting}</dd>
  </div>
  {#each run.reasons as { state, reason, count } (`${state}${reason}`)}
    <div>
      <dt>{reason}</dt>
      <dd>{count}</dd>
    </div>
  {/each}
  {#if run.unticked > 0}<div>
      <dt>removed by hand</dt>
      <dd>{run.unticked}</dd>
    </div>{/if}
  <div class="took">
    <dt>{run.state === 'ready' ? 'would be ' : ''}{run.verb}</dt>
    <dd>{run.count}</dd>
  </div>
  {#each run.answers as { answer, count } (answer)}
    <div>
      <dt>{answer}</dt>
      <dd>{count}</dd>
    </div>
  {/each}
</dl>
<p class="quiet">
  {#if run.startedBy}Run by {run.startedBy}.{/if}
  {#if run.undoUntil}Undo is possible until {run.undoUntil}. Later edits are kept.{/if}
  {#if run.measured}Measured: {run.measured}.{/if}
</p>

<style>
  .stages {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 26px;
    margin: 14px 0 6px;
  }
  .stages div {
    display: grid;
  }
  .stages dt {
    font-size: 12.5px;
    color: var(--ink-3);
  }
  .stages dd {
    font-size: 18px;
    font-weight: 600;
  }
  .stages .took dd {
    color: var(--sea);
  }
</style>
