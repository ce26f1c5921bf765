<script lang="ts">
  import { askJson } from '$lib/ui/form/send.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import TitleInput from '$lib/ui/form/TitleInput.svelte';
  import { pageDraft } from '$lib/ui/form/edited-draft.svelte.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import DigestEditor from '$lib/ui/digest/DigestEditor.svelte';
  import DigestPreviewPart, { type Preview } from '$lib/ui/digest/DigestPreviewPart.svelte';
  import DigestRuns from '$lib/ui/digest/DigestRuns.svelte';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  const draft = pageDraft(() => {
    const { name, description, definition } = data.digest;
    return { name, description, definition };
  }, 'This digest');

  const fault = $derived(form && 'errors' in form ? Object.values(form.errors ?? {})[0] : undefined);

  /** While somebody edits, what is wrong stands beside the preview and is announced nowhere else. */
  async function preview(person: number, date: string, time: string): Promise<Preview | string> {
    const asked = { digest: draft.input, person, date, time };
    const said = (await askJson<Preview>(`/digests/${data.digest.id}/preview`, asked))!;
    return said.ok ? said.answer : said.message;
  }
</script>

<svelte:head><title>{data.digest.name} · Digests · Early Bell</title></svelte:head>

<p class="quiet"><a href="/digests">Digests</a></p>
<div class="top">
  <TitleInput label="Name of the digest" bind:value={draft.input.name} />
  <RuleState state={data.row.state} />
  <span class="acts">
    <form
      method="POST"
      action="?/save"
      use:enhance={submitDone(done, undefined, (sent) => draft.markSaved(String(sent.get('digest'))))}
    >
      <input type="hidden" name="digest" value={draft.text} />
      <button class="button main" disabled={!draft.unsaved}>Save</button>
    </form>
    <form method="POST" action="?/turn" use:enhance={submitDone(done)}>
      <input type="hidden" name="state" value={data.row.state === 'on' ? 'off' : 'on'} />
      <button class="button" disabled={draft.unsaved} title={draft.unsaved ? 'Save it first' : undefined}
        >Turn it {data.row.state === 'on' ? 'off' : 'on'}</button
      >
    </form>
    <form method="POST" action="?/drop" use:enhance={submitDone(done, () => draft.markSaved(draft.text))}>
      <button class="button plain">Remove</button>
    </form>
  </span>
</div>
<p class="quiet sentence">
  {data.row.about}, to {data.row.to}, {data.row.when}.
  {#if data.row.next}Next {data.row.next} to {data.row.nextReaders}.{:else if data.row.state === 'on'}Nothing
    planned: {data.row.readers === 0 ? 'it has no recipients.' : 'no recipient has set a digest time.'}{/if}
</p>
{#if fault}<p class="fault" role="alert">{fault}</p>{/if}

<div class="sides">
  <div>
    <DigestEditor
      bind:definition={draft.input.definition}
      choices={data.choices}
      readers={data.row.readers}
      today={data.now.date}
    />
    <label class="described"
      ><span class="quiet">Description</span>
      <input class="value" maxlength="2000" bind:value={draft.input.description} /></label
    >
  </div>
  <div class="side">
    <DigestPreviewPart
      readers={draft.input.definition.gather === 'together' ? [] : data.readers}
      together={draft.input.definition.gather === 'together'}
      me={data.me}
      now={data.now}
      place={data.place}
      says={draft.text}
      onpreview={preview}
    />
    <DigestRuns runs={data.runs} />
  </div>
</div>

<style>
  .top {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px;
  }
  .acts {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
  .sentence {
    margin: 6px 0 14px;
  }
  .sentence::first-letter {
    text-transform: uppercase;
  }
  .sides {
    display: grid;
    grid-template-columns: minmax(380px, 1fr) minmax(0, 1.1fr);
    gap: 34px;
    align-items: start;
  }
  .described {
    display: grid;
    gap: 3px;
    border-top: 1px solid var(--line);
    padding-top: 10px;
  }
  .side {
    min-width: 0;
  }
  @media (max-width: 1000px) {
    .sides {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
