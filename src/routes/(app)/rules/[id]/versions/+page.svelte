<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<svelte:head><title>Versions of {data.name || 'a rule'} · Early Bell</title></svelte:head>

<p class="quiet">
  <a href="/rules">Rules</a> · <a href="/rules/{data.id}">{data.name || 'a rule without a name'}</a>
</p>
<h1>Versions</h1>
<p class="quiet">
  The newest first. A version that has been live is never rewritten; what has rung by its ring times stays
  rung.
</p>
{#if form && 'errors' in form}<p class="fault" role="alert">{Object.values(form.errors ?? {})[0]}</p>{/if}

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
            <button class="button">Take version {version.number} up again</button>
          </form>
        {/if}
      </div>
      {#each version.differences as { part, gone, added } (part)}
        <div class="part">
          <span class="label">{part}</span>
          <div>
            {#each gone as line (line)}<p class="gone"><span class="sr">no more: </span>{line}</p>{/each}
            {#each added as line (line)}<p class="added"><span class="sr">now: </span>{line}</p>{/each}
          </div>
        </div>
      {:else}
        <p class="quiet">{version.number === 1 ? 'The first.' : 'Says the same as the one before.'}</p>
      {/each}
    </li>
  {/each}
</ol>

<style>
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
  .part {
    display: grid;
    grid-template-columns: 62px minmax(0, 1fr);
    gap: 4px 10px;
    font-size: 13px;
  }
  .label {
    color: var(--ink-3);
  }
  .gone {
    color: var(--brick);
    text-decoration: line-through;
    text-decoration-thickness: 1px;
  }
  .added {
    color: var(--sea);
  }
</style>
