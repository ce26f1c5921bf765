<script lang="ts">
  import { enhance } from '$app/forms';
  import X from '@lucide/svelte/icons/x';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { HushView } from '$lib/view/hush.ts';
  import DateField from '../form/date/DateField.svelte';

  /** A project, a person or a rule that is quiet for a while, and the form that makes it so. */
  interface Props {
    hush: HushView;
    /** What it is: “this project”. */
    what: string;
    ondone: (done: Done) => void;
    fault?: string | undefined;
  }

  let { hush, what, ondone, fault }: Props = $props();
  let opened = $state(false);
</script>

<section class="hush" aria-label="Quiet">
  {#each hush.hushes as one (one.id)}
    <form class="band" method="POST" action="?/unhush" use:enhance={submitDone(ondone)}>
      <b>Quiet</b>
      <span
        >until the end of {one.until}, hushed by {one.by}{one.note ? `: ${one.note}` : ''}
        {#if one.mayEnd}<input type="hidden" name="hush" value={one.id} />
          <button class="button plain" aria-label="End the hush"><X size={13} /></button>{/if}</span
      >
    </form>
  {/each}
  <details bind:open={opened}>
    <summary class="quiet">Hush {what}</summary>
    <form
      class="row"
      method="POST"
      action="?/hush"
      use:enhance={submitDone((done) => {
        opened = false;
        ondone(done);
      })}
    >
      <DateField name="until" label="Hushed until" min={hush.tomorrow} value={hush.tomorrow} required />
      <input class="value" name="note" maxlength="200" placeholder="why" aria-label="Reason" />
      <button class="button">Hush</button>
      <span class="quiet">waiting notices are withdrawn and never sent; 90 days at most</span>
    </form>
  </details>
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
</section>

<style>
  .hush {
    font-size: 13px;
    margin: 6px 0 12px;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 6px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
  }
</style>
