<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import TitleInput from '$lib/ui/form/TitleInput.svelte';
  import { pageDraft } from '$lib/ui/form/edited-draft.svelte.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import SweepEditor from '$lib/ui/sweep/SweepEditor.svelte';
  import SweepNow from '$lib/ui/sweep/SweepNow.svelte';
  import SweepReports from '$lib/ui/sweep/SweepReports.svelte';
  import type { ActionData, PageData } from './$types';
  import { askNow } from '../ask-now.ts';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  const draft = pageDraft(() => {
    const { name, description, definition } = data.sweep;
    return { name, description, definition };
  }, 'This sweep');

  const fault = $derived(form && 'errors' in form ? Object.values(form.errors ?? {})[0] : undefined);
  const isPlanned = $derived(data.sweep.definition.when.by === 'schedule');
</script>

<svelte:head><title>{data.sweep.name} · Sweeps · Early Bell</title></svelte:head>

<p class="quiet"><a href="/sweeps">Sweeps</a></p>
<div class="top">
  <TitleInput label="Name of the sweep" bind:value={draft.input.name} />
  {#if isPlanned}<RuleState state={data.sweep.state} />{/if}
  <span class="acts">
    <form
      method="POST"
      action="?/save"
      use:enhance={submitDone(done, undefined, (sent) => draft.markSaved(String(sent.get('sweep'))))}
    >
      <input type="hidden" name="sweep" value={draft.text} />
      <button class="button main" disabled={!draft.unsaved}>Save</button>
    </form>
    <form method="POST" action="?/look" use:enhance={submitDone(done)}>
      <button class="button" disabled={draft.unsaved} title={draft.unsaved ? 'Save it first' : undefined}
        >Make the list now</button
      >
    </form>
    {#if isPlanned}
      <form method="POST" action="?/turn" use:enhance={submitDone(done)}>
        <input type="hidden" name="state" value={data.sweep.state === 'on' ? 'off' : 'on'} />
        <button class="button" disabled={draft.unsaved} title={draft.unsaved ? 'Save it first' : undefined}
          >Turn it {data.sweep.state === 'on' ? 'off' : 'on'}</button
        >
      </form>
    {/if}
    <form method="POST" action="?/drop" use:enhance={submitDone(done, () => draft.markSaved(draft.text))}>
      <button class="button plain">Remove</button>
    </form>
  </span>
</div>
<p class="sentence">
  {data.row.sentence}
  {#if data.row.next}<span class="quiet"
      >Next list: {data.row.next.list}. Next run: {data.row.next.runs}.</span
    >{/if}
</p>
{#if fault}<p class="fault" role="alert">{fault}</p>{/if}

<div class="sides">
  <div>
    <SweepEditor bind:definition={draft.input.definition} choices={data.choices} />
    <label class="described"
      ><span class="quiet">Description</span>
      <input class="value" maxlength="2000" bind:value={draft.input.description} /></label
    >
  </div>
  <div class="side">
    <section class="now" aria-labelledby="now">
      <h2 id="now">Tasks now</h2>
      <p>
        <SweepNow
          ask={() =>
            askNow(data.sweep.id, {
              name: data.sweep.name,
              description: '',
              definition: draft.input.definition
            })}
          of={JSON.stringify(draft.input.definition)}
        />
      </p>
    </section>
    <h2>Runs</h2>
    <SweepReports runs={data.runs} />
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
    flex-wrap: wrap;
    gap: 8px;
  }
  .sentence {
    margin: 6px 0 14px;
    max-width: 860px;
  }
  .sides {
    display: grid;
    grid-template-columns: minmax(380px, 1.1fr) minmax(0, 1fr);
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
  .now {
    border-top: 1px solid var(--line);
    padding: 10px 0 16px;
  }
  .now p {
    font-size: 15px;
  }
  @media (max-width: 1000px) {
    .sides {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
