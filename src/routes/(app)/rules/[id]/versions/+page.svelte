<script lang="ts">
  import { agree } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import BesidePart from '$lib/ui/rule/BesidePart.svelte';
  import DifferenceList from '$lib/ui/rule/DifferenceList.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const newest = $derived(Math.max(...data.versions.map(({ number }) => number)));
</script>

<svelte:head><title>Versions of {data.name || 'a rule'} · Early Bell</title></svelte:head>

<p class="quiet">
  <a href="/rules">Rules</a> · <a href="/rules/{data.id}">{data.name || 'a rule without a name'}</a>
</p>
<h1>Versions</h1>
<p class="quiet">Newest first. A version that was live does not change. What has rung does not ring again.</p>
{#if form && 'errors' in form}<p class="fault" role="alert">{Object.values(form.errors ?? {})[0]}</p>{/if}

{#if data.versions.length > 1}
  <form class="compare" data-sveltekit-noscroll data-sveltekit-replacestate>
    <label
      >Compare version <select class="value" name="to" value={String(data.compared?.to ?? newest)}>
        {#each data.versions as { number } (number)}<option value={String(number)}>{number}</option>{/each}
      </select></label
    >
    <label
      >with version <select class="value" name="from" value={String(data.compared?.from ?? newest - 1)}>
        {#each data.versions as { number } (number)}<option value={String(number)}>{number}</option>{/each}
      </select></label
    >
    <button class="button">Compare</button>
  </form>
{/if}
{#if data.compared}
  <section aria-label="Version {data.compared.to} with version {data.compared.from}">
    <h2>Version {data.compared.to} with version {data.compared.from}</h2>
    <DifferenceList differences={data.compared.differences} none="No difference." />
    <BesidePart beside={data.compared.beside} />
  </section>
{/if}

<ol class="versions">
  {#each data.versions as version (version.id)}
    <li aria-label="Version {version.number}">
      <div class="head">
        <b>Version {version.number}</b>
        {#if version.stands}<span class="stands">{version.stands === 'live' ? 'live' : 'draft'}</span>{/if}
        <span class="quiet">{version.who}, {version.when}</span>
        {#if version.stands !== 'draft' && !(version.stands === 'live' && data.versions.length === 1)}
          <form method="POST" action="?/restore" use:enhance={submitDone(done)}>
            <input type="hidden" name="version" value={version.id} />
            <button class="button">Make a draft from version {version.number}</button>
          </form>
        {/if}
      </div>
      <DifferenceList
        differences={version.differences}
        none={agree(version.number, 'The first.', 'Same as the previous version.')}
      />
    </li>
  {/each}
</ol>

<style>
  .compare {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 10px;
    font-size: 13px;
  }
  section {
    display: grid;
    gap: 8px;
    max-width: 900px;
    margin-top: 12px;
  }
  .versions {
    list-style: none;
    padding: 0;
    margin-top: 10px;
    max-width: 900px;
  }
  li {
    border-top: 1px solid var(--line);
    padding: 10px 0 12px;
    display: grid;
    gap: 6px;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
  }
  .head form {
    margin-left: auto;
  }
  .stands {
    color: var(--sea);
    font-weight: 600;
    font-size: 12.5px;
  }
</style>
