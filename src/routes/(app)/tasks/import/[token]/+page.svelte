<script lang="ts">
  import Stages from '$lib/ui/parts/Stages.svelte';
  import Progress from '$lib/ui/parts/Progress.svelte';
  import { many, agree } from '$lib/core/many.ts';
  import type { SubmitFunction } from '@sveltejs/kit';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { page } from '$app/state';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import type { Send } from '$lib/ui/form/send.ts';
  import type { EffectView } from '$lib/view/effects.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import { followUpload, type Far } from '../follow.ts';
  import ChoicesForm from './ChoicesForm.svelte';
  import ProblemRows from './ProblemRows.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const send = getContext<Send>('send');
  let importing = $state(false);
  let far = $state<Far | null>(null);
  const submitImport = submitDone(done, undefined, undefined, null);
  /** Shows how far it is until it is answered. */
  const importThem: SubmitFunction = async (input) => {
    importing = true;
    const token = page.params.token!;
    void followUpload(
      token,
      () => !importing,
      (now) => (far = now)
    );
    const after = await submitImport(input);
    return async (outcome) => {
      importing = false;
      far = null;
      await after?.(outcome);
    };
  };

  const { review } = $derived(data);
  const delimiters: Record<string, string> = { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars' };
  const ready = $derived(review.good > 0 && review.missing.length === 0 && !review.ambiguousDate);
  const failure = $derived(form && 'message' in form ? form.message : '');

  /** Of the choices as they stand; other choices are looked at anew. */
  let looked = $state.raw<{ review: unknown; effect: EffectView } | null>(null);
  const effect = $derived(looked?.review === review ? looked.effect : null);
  async function look() {
    const of = review;
    const answer = await send<EffectView>(`${page.url.pathname}/effect`, {});
    if (!('failed' in answer)) looked = { review: of, effect: answer };
  }

  const KNOWN_FATE = {
    'leave out': ' and skipped',
    update: ' and updated, or skipped if the file has them twice',
    'add again': ' and added again'
  };
</script>

<svelte:head><title>Check the import · Early Bell</title></svelte:head>

<p class="quiet"><a href="/tasks/import">Choose another file</a></p>
<h1>{review.fileName}</h1>
<div class="my-2">
  <Stages label="Importing" stages={['choose a file', 'check it', 'import']} at={importing ? 2 : 1} />
</div>
<p class="quiet">
  {review.rows.toLocaleString('en')} rows · separated by {delimiters[review.delimiter] ??
    `“${review.delimiter}”`} · {review.encoding}. Nothing is saved yet.
</p>

{#if failure}<p class="band brick mt-3" role="alert"><b>Not imported</b><span>{failure}</span></p>{/if}

<ChoicesForm {review} columns={data.columns} />

{#if review.missing.length > 0}
  <p class="band brick mt-4" role="alert">
    <b>A column is missing</b><span>No column has the task name. Choose the column.</span>
  </p>
{:else if review.ambiguousDate}
  <p class="band brick mt-4" role="alert">
    <b>Which date is this?</b>
    <span
      >{review.ambiguousDate} can be read day first or month first. Nothing in the column decides it. Choose one
      above.</span
    >
  </p>
{/if}

{#if review.missing.length === 0}
  <p class="tally mt-4">
    <b>{review.good.toLocaleString('en')}</b>
    {agree(review.good, 'row', 'rows')} can be imported: {review.created.toLocaleString('en')} new{review.updated >
    0
      ? `, ${review.updated} update existing tasks (same key)`
      : ''}{review.newProjects.length > 0 ? `; new projects: ${review.newProjects.join(', ')}` : ''}.
    {#if review.known.count > 0}<b>{review.known.count.toLocaleString('en')}</b>
      {agree(review.known.count, 'is', 'are')} here already{KNOWN_FATE[review.choices.known]}: {review.known.first
        .map(({ line, name }) => `“${name}” (line ${line})`)
        .join(', ')}{review.known.count > review.known.first.length ? ' and others' : ''}.{/if}
    {#if review.problemCount > 0}<b class="brick-text">{review.problemCount.toLocaleString('en')}</b> cannot, as
      listed below.{/if}
  </p>
  {#if effect}
    <section class="sheet look" aria-label="Effect of the import"><Effect {effect} /></section>
  {:else if ready}
    <p class="mt-3"><button type="button" class="button" onclick={look}>Preview</button></p>
  {/if}
  <form method="POST" action="?/import" use:enhance={importThem} class="mt-3 flex gap-2">
    <button class="button main" disabled={!ready || importing}
      >{importing ? 'Importing…' : `Import ${many(review.good, 'task', 'tasks')}`}</button
    >
    <a class="button" href="/tasks">Cancel</a>
  </form>
  {#if far}
    <p class="mt-3 mb-1" aria-live="polite">
      {far.text}… You can leave this page. The tasks appear when all of them are saved.
    </p>
    <Progress part={far.part} label={far.text} />
  {/if}
  <ProblemRows {review} />
  {#if data.preview.length > 0}
    <h2 class="mt-6">Preview of the first rows</h2>
    <table>
      <thead
        ><tr
          ><th>Line</th><th>Task</th><th>Owner</th><th>Due</th><th>Starts</th><th>Project</th><th>Priority</th
          ></tr
        ></thead
      >
      <tbody>
        {#each data.preview as row (row.line)}
          <tr>
            <td>{row.line}</td><td>{row.name}</td><td>{row.owner ?? 'no owner'}</td><td
              >{row.due ?? 'no date'}</td
            ><td>{row.start ?? ''}</td>
            <td>{row.project ?? ''}</td><td>{row.priority}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
{/if}

<style>
  .look {
    padding: 12px 14px;
    margin-top: 12px;
  }
</style>
