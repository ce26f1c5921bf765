<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { CHANNEL, CHANNELS, LEAVING } from '$lib/core/channel/channels.ts';
  import TextField from '$lib/ui/form/TextField.svelte';
  import { CHANNEL_PARTS } from '$lib/ui/settings/channel/parts.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const given = $derived((form && 'given' in form ? form.given : {}) as Record<string, string | undefined>);
  const errors = $derived(
    (form && 'errors' in form ? form.errors : {}) as Record<string, string | undefined>
  );
  const value = (name: string, set: string | number | null | undefined) => String(given[name] ?? set ?? '');
</script>

<svelte:head><title>Channels · Early Bell</title></svelte:head>

<p class="quiet"><a href="/settings">Settings</a></p>
<h1>Channels</h1>
<p class="quiet">How messages are sent. Each person chooses channels on their own page.</p>

{#each CHANNELS as channel (channel)}
  <form id="test-{channel}" method="POST" action="?/test" use:enhance={submitDone(done)}>
    <input type="hidden" name="channel" value={channel} />
  </form>
{/each}

<form method="POST" action="?/save" use:enhance={submitDone(done)} class="mt-3">
  {#each CHANNELS as channel (channel)}
    {@const Part = CHANNEL_PARTS[channel]}
    <Part set={data.set} {value} {errors}>
      {#snippet test(caption)}
        {#if data.open.includes(channel)}
          <button class="button" form="test-{channel}">{caption}</button>
          {@const fault = errors[`test ${channel}`]}
          {#if fault}<span class="brick-text" role="alert">{fault}</span>{/if}
        {/if}
      {/snippet}
    </Part>
  {/each}

  <h2>Limits</h2>
  <p class="quiet">Further messages wait, oldest first.</p>
  <div class="rates">
    {#each LEAVING as name (name)}
      <fieldset>
        <legend>By {CHANNEL[name].words}</legend>
        <TextField
          label="Messages per minute, total"
          name="{name}Minute"
          inputmode="numeric"
          value={value(`${name}Minute`, data.set.rates[name].perMinute)}
          error={errors[`${name}Minute`]}
          hint="Empty: no limit."
        />
        <TextField
          label="and per address"
          name="{name}Address"
          inputmode="numeric"
          value={value(`${name}Address`, data.set.rates[name].perAddress)}
          error={errors[`${name}Address`]}
        />
      </fieldset>
    {/each}
  </div>
  <p class="mt-4"><button class="button main">Save the channels</button></p>
</form>

<style>
  form :global(h2) {
    margin: 22px 0 4px;
  }
  form :global(.now) {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 14px;
  }
  form :global(fieldset) {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
    gap: 10px 16px;
    max-width: 980px;
    margin-top: 10px;
    padding-top: 8px;
    border-top: 1px solid var(--line-soft);
  }
  form :global(legend) {
    float: left;
    width: 100%;
    grid-column: 1 / -1;
    font-weight: 600;
    font-size: 13px;
  }
  .rates {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
    gap: 0 24px;
    max-width: 980px;
  }
  form :global(fieldset .value) {
    width: 100%;
    min-width: 0;
  }
</style>
