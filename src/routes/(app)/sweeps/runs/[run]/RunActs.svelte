<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import { many } from '$lib/core/many.ts';
  import type { PageData } from './$types';

  /** What can be done with a run as it stands. */
  let { run }: Pick<PageData, 'run'> = $props();
  const done = getContext<(done: Done) => void>('done');
  /** A share of everything that is uncommonly large is ticked first. */
  let meant = $state(false);
</script>

<span class="acts">
  {#if run.state === 'ready' && run.count > 0}
    <form method="POST" action="?/run" use:enhance={submitDone(done)}>
      {#if run.share !== null}<label class="meant"
          ><input type="checkbox" name="meant" value="yes" bind:checked={meant} />
          I confirm: {run.share} % of these tasks</label
        >{/if}
      <button class="button main" disabled={run.share !== null && !meant}
        >{run.waits ? 'Approve and run' : 'Run it now'}: {many(run.count, 'task', 'tasks')}</button
      >
    </form>
  {/if}
  {#if run.state === 'ready' || run.state === 'looking'}
    <form method="POST" action="?/stop" use:enhance={submitDone(done)}>
      <button class="button">Cancel run</button>
    </form>
  {/if}
  {#if run.state === 'running'}
    <form method="POST" action="?/halt" use:enhance={submitDone(done)}>
      <button class="button">Stop</button>
    </form>
  {/if}
  {#if run.state === 'halted'}
    <form method="POST" action="?/resume" use:enhance={submitDone(done)}>
      <button class="button main">Continue</button>
    </form>
  {/if}
  {#if run.undoUntil}
    <form method="POST" action="?/undo" use:enhance={submitDone(done)}>
      <button class="button">Undo the run</button>
    </form>
  {/if}
</span>

<style>
  .acts {
    margin-left: auto;
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
  .meant {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    margin-right: 8px;
    font-size: 13px;
  }
</style>
