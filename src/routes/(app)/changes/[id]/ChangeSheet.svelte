<!-- A change: what it did, and what taking it back would do. -->
<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import type { Send } from '$lib/ui/form/send.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import Changed from '$lib/ui/record/Changed.svelte';
  import Left from '$lib/ui/record/Left.svelte';
  import type { ChangeView, UndoPreviewView } from '$lib/view/changes.ts';
  import type { ActionData } from './$types';

  interface Props {
    change: ChangeView;
    form: ActionData;
    readsJournal: boolean;
  }
  let { change, form, readsJournal }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  const send = getContext<Send>('send');
  const fault = $derived(form && 'errors' in form ? form.errors?.[''] : undefined);
  let looked = $state<{ of: number; preview: UndoPreviewView } | null>(null);
  let refused = $state('');
  let busy = $state(false);
  let part = $state<number | null>(null);
  const preview = $derived(looked?.of === change.id && !change.undone ? looked.preview : null);

  async function look() {
    busy = true;
    refused = '';
    part = null;
    const answer = await send<UndoPreviewView>(`/changes/${change.id}/preview`, {}, (come) => (part = come));
    busy = false;
    if ('failed' in answer) refused = answer.message;
    else looked = { of: change.id, preview: answer };
  }
  const people = (count: number) => many(count, 'person', 'people');
</script>

<div class="top">
  <h1>{change.title}</h1>
  {#if change.stays === null && !preview}<button class="button" disabled={busy} onclick={look}>Undo…</button
    >{/if}
</div>
<p class="quiet">
  {change.by}, {change.at}, {change.way}{#if change.undone}{:else if change.stays === null}; undo is possible
    until {change.until}{/if}
</p>
{#if fault || refused}<p class="fault" role="alert">{fault ?? refused}</p>{/if}
{#if change.undone}
  <p class="band slate mt-2">
    <b>Undone</b><span>by {change.undone.by}, {change.undone.at}</span>
  </p>
{:else if change.stays !== null}
  <p class="quiet">
    {change.stays}
    {#if change.sweepRunId}<a href="/sweeps/runs/{change.sweepRunId}">Its run</a>{/if}
  </p>
{/if}

{#if busy && !preview}<Looking {part} />{/if}
{#if preview}
  <section class="sheet" aria-label="Effect of undo">
    <h2>Effect of undo</h2>
    {#if preview.things.length > 0}
      <details open={preview.things.length <= 10}>
        <summary>{many(preview.things.length + preview.more, 'change is', 'changes are')} undone</summary>
        <Changed things={preview.things} more={preview.more} caption="What is undone" />
      </details>
    {/if}
    {#if preview.kept.count > 0}
      <p>
        {many(preview.kept.count, 'later edit is', 'later edits are')} not undone:
      </p>
      <ul>
        {#each preview.kept.listed as { what, by }, i (i)}<li>
            {what} <span class="quiet">by {by}</span>
          </li>{/each}
      </ul>
    {/if}
    {#if preview.withdrawn.count > 0}
      <details open={preview.withdrawn.count <= 8}>
        <summary>{many(preview.withdrawn.count, 'waiting notice is', 'waiting notices are')} not sent</summary
        >
        <ul>
          {#each preview.withdrawn.listed as { task, to, at }, i (i)}<li>
              {task}, to {to} <span class="quiet">{at}</span>
            </li>{/each}
        </ul>
        {#if preview.withdrawn.count > preview.withdrawn.listed.length}<p class="quiet">
            and {preview.withdrawn.count - preview.withdrawn.listed.length} more
          </p>{/if}
      </details>
    {/if}
    {#if preview.left.count > 0}
      <p>
        {many(preview.left.count, 'message was', 'messages were')} sent because of it. This cannot be undone; you
        can tell the same readers afterwards.
      </p>
      <Left left={preview.left} />
    {/if}
    <p class="quiet">Notices that would have been sent until now are not sent later.</p>
    {#if preview.effect}<Effect effect={preview.effect} changedElsewhere />
    {:else}<p>This changes more than 10,000 tasks: too many to show the effect on bells and messages.</p>{/if}
    <form method="POST" action="?/undo" use:enhance={submitDone(done)}>
      <input type="hidden" name="stamp" value={preview.effect?.stamp} />
      <button class="button main">Undo</button>
      <button type="button" class="button plain" onclick={() => (looked = null)}>Cancel</button>
    </form>
  </section>
{/if}

{#if change.left.count > 0}
  <section>
    <h2>Messages sent because of it</h2>
    <Left left={change.left} />
    {#if change.undone && change.readers > 0}
      <form method="POST" action="?/tell" use:enhance={submitDone(done)}>
        <button class="button">Tell {people(change.readers)} that it was undone</button>
      </form>
    {/if}
  </section>
{/if}
{#if change.things.length > 0}
  <section>
    <h2>Changes</h2>
    <Changed things={change.things} more={change.more} caption="What it changed" />
  </section>
{/if}
{#if change.caused.length > 0}
  <section>
    <h2>Changes by rules because of it</h2>
    <ul>
      {#each change.caused as { title, count, ruleId, runId } (title)}
        <li class:undone={change.undone !== null}>
          {#if ruleId && readsJournal}<a
              href={runId ? `/rules/${ruleId}/runs/${runId}` : `/rules/${ruleId}/runs`}>{title}</a
            >{:else}{title}{/if}{#if count > 1}<span class="quiet">, {count.toLocaleString('en')} times</span
            >{/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}

<style>
  .top {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 12px;
  }
  section {
    border-top: 1px solid var(--line);
    padding: 12px 0;
    margin-top: 12px;
  }
  section.sheet {
    display: grid;
    gap: 8px;
    padding: 12px 14px;
    border-top: 0;
  }
  ul {
    list-style: disc;
    padding-left: 20px;
    font-size: 13px;
  }
  summary {
    cursor: pointer;
    font-weight: 600;
    width: fit-content;
  }
  form {
    display: flex;
    gap: 8px;
    margin-top: 8px;
  }
  .undone {
    color: var(--ink-3);
  }
</style>
