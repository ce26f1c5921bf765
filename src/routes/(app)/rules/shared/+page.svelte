<script lang="ts">
  import { recipientWords } from '$lib/core/rule/words/recipient-words.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { BARE_NAMES } from '$lib/core/rule/words/condition-words.ts';
  import type { Recipient } from '$lib/core/rule/step-model.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import Recipients from '$lib/ui/rule/Recipients.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  /** What is being written: its id, 0 for a new one. */
  let list = $state<number | null>(null);
  let readers = $state<Recipient[]>([]);
  let template = $state<number | null>(null);

  const fault = $derived(form && 'errors' in form ? Object.values(form.errors ?? {})[0] : undefined);
  const names = $derived({
    ...BARE_NAMES,
    person: (id: number) => data.choices.people.find((one) => one.id === id)?.name ?? 'a removed person',
    group: (id: number) => data.choices.groups.find((one) => one.id === id)?.name ?? 'a removed group',
    field: (id: number) => data.choices.fields.find((one) => one.id === id)?.name ?? 'a removed field'
  });
  // A list names no lists.
  const choices = $derived({ ...data.choices, readers: [] });

  function openList(id: number, to: readonly Recipient[]) {
    list = id;
    readers = JSON.parse(JSON.stringify(to)) as Recipient[];
  }
</script>

<svelte:head><title>Reader lists and templates · Early Bell</title></svelte:head>

<p class="quiet"><a href="/rules">Rules</a></p>
<h1>Reader lists and templates</h1>
{#if fault}<p class="fault" role="alert">{fault}</p>{/if}

<section aria-labelledby="lists">
  <h2 id="lists">Reader lists</h2>
  <p class="quiet">A saved set of recipients: fixed, or worked out when a rule rings.</p>
  <ul>
    {#each data.lists as one (one.id)}
      <li>
        <span class="about"
          ><b>{one.name}</b>: {one.recipients.map((to) => recipientWords(to, names)).join(', ') || 'nobody'}
          <span class="quiet"
            >{one.uses.length === 0 ? 'no rule uses it' : 'used by'}
            {#each one.uses as rule, i (rule.id)}{i > 0 ? ', ' : ''}<a href="/rules/{rule.id}">{rule.name}</a
              >{/each}</span
          ></span
        >
        <button type="button" class="button plain" onclick={() => openList(one.id, one.recipients)}
          >Change</button
        >
        <form method="POST" action="?/dropReaders" use:enhance={submitDone(done)}>
          <input type="hidden" name="id" value={one.id} />
          <button
            class="button plain"
            aria-label="Remove {one.uses.length > 0 ? 'anyway: ' : ''}the reader list {one.name}"
            >Remove{one.uses.length > 0 ? ' anyway' : ''}</button
          >
        </form>
      </li>
      {#if list === one.id}<li>{@render listForm(one.name)}</li>{/if}
    {/each}
  </ul>
  {#if list === 0}{@render listForm('')}{:else}<button
      type="button"
      class="button"
      onclick={() => openList(0, [{ who: 'coordinator' }])}>Add a reader list</button
    >{/if}
</section>

<section aria-labelledby="templates">
  <h2 id="templates">Message templates</h2>
  <p class="quiet">Texts to start from. A rule copies the text; later changes here do not reach it.</p>
  <ul>
    {#each data.templates as one (one.id)}
      <li>
        <span class="about"><b>{one.name}</b> <span class="quiet">{one.subject}</span></span>
        <span class="quiet"
          >{one.uses.length === 0 ? 'no rule uses this text unchanged' : 'used unchanged by'}
          {#each one.uses as rule, i (rule.id)}{i > 0 ? ', ' : ''}<a href="/rules/{rule.id}">{rule.name}</a
            >{/each}</span
        >
        <button type="button" class="button plain" onclick={() => (template = one.id)}>Change</button>
        <form method="POST" action="?/dropTemplate" use:enhance={submitDone(done)}>
          <input type="hidden" name="id" value={one.id} />
          <button class="button plain" aria-label="Remove the template {one.name}">Remove</button>
        </form>
      </li>
      {#if template === one.id}<li>{@render templateForm(one)}</li>{/if}
    {/each}
  </ul>
  {#if template === 0}{@render templateForm({ id: 0, name: '', subject: '', body: '' })}{:else}<button
      type="button"
      class="button"
      onclick={() => (template = 0)}>Add a template</button
    >{/if}
</section>

{#snippet listForm(name: string)}
  <form
    class="editor"
    method="POST"
    action="?/readers"
    use:enhance={submitDone((said) => {
      list = null;
      done(said);
    })}
  >
    <input type="hidden" name="id" value={list || ''} />
    <input type="hidden" name="recipients" value={JSON.stringify(readers)} />
    <label class="field"
      ><span class="label">List name</span><input
        class="value"
        name="name"
        maxlength="120"
        value={name}
      /></label
    >
    <Recipients to={readers} {choices} leads={[]} onchange={(to) => (readers = to)} />
    <p class="acts">
      <button class="button main">Save the list</button><button
        type="button"
        class="button"
        onclick={() => (list = null)}>Cancel</button
      >
    </p>
  </form>
{/snippet}

{#snippet templateForm(one: { id: number; name: string; subject: string; body: string })}
  <form
    class="editor"
    method="POST"
    action="?/template"
    use:enhance={submitDone((said) => {
      template = null;
      done(said);
    })}
  >
    <input type="hidden" name="id" value={one.id || ''} />
    <label class="field"
      ><span class="label">Template name</span><input
        class="value"
        name="name"
        maxlength="120"
        value={one.name}
      /></label
    >
    <label class="field"
      ><span class="label">Its subject</span><input
        class="value"
        name="subject"
        maxlength="500"
        value={one.subject}
      /></label
    >
    <label class="field"
      ><span class="label">Its words</span><textarea class="value" name="body" rows="6" value={one.body}
      ></textarea></label
    >
    <p class="acts">
      <button class="button main">Save the template</button><button
        type="button"
        class="button"
        onclick={() => (template = null)}>Cancel</button
      >
    </p>
  </form>
{/snippet}

<style>
  section {
    border-top: 1px solid var(--line);
    padding: 12px 0 16px;
    margin-top: 12px;
  }
  li {
    display: flex;
    gap: 4px;
    align-items: center;
    padding: 3px 0;
  }
  .about {
    flex: 1;
  }
  .editor {
    display: grid;
    gap: 8px;
    max-width: 620px;
    width: 100%;
    padding: 8px 0;
  }
  .acts {
    display: flex;
    gap: 8px;
  }
</style>
