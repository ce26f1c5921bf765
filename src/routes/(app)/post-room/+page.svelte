<script lang="ts">
  import { enhance } from '$app/forms';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const FAULTS = [
    ['none', 'takes every message'],
    ['try-later', 'asks to try again later'],
    ['refuse', 'refuses for good']
  ] as const;
  const page = (from: number) =>
    `/post-room?${new URLSearchParams({ ...(data.search ? { search: data.search } : {}), from: String(from) })}`;
</script>

<svelte:head><title>Post room · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-end gap-3">
  <h1>Post room</h1>
  <span class="quiet">messages exactly as the mail stand-in received them</span>
  <form method="POST" action="?/fault" use:enhance class="ml-auto">
    <label class="field">
      <span class="label">The stand-in</span>
      <select class="value" name="fault" onchange={(event) => event.currentTarget.form?.requestSubmit()}>
        {#each FAULTS as [value, label] (value)}<option {value} selected={data.fault === value}
            >{label}</option
          >{/each}
      </select>
    </label>
  </form>
</div>

<form method="GET" class="mt-3 mb-3 flex items-end gap-2" data-sveltekit-keepfocus>
  <label class="field">
    <span class="label">Subject, reader or words</span>
    <input class="value" type="search" name="search" value={data.search} />
  </label>
  <button class="button">Search</button>
  <span class="quiet pb-1">{data.total.toLocaleString('en')} {data.total === 1 ? 'message' : 'messages'}</span
  >
</form>

{#if data.closed}
  <p class="band brick" role="alert">
    <b>Closed</b><span>{data.closed} Messages wait in the outbox and are tried again.</span>
  </p>
{:else if data.messages.length === 0}
  <p class="py-3">
    {data.search
      ? 'No message is like that.'
      : 'No message has come in yet. Move the clock to the next bell.'}
  </p>
{:else}
  <table>
    <caption class="sr">Messages, newest first</caption>
    <thead><tr><th>Left at</th><th>Reader</th><th>Subject</th></tr></thead>
    <tbody>
      {#each data.messages as message (message.id)}
        <tr>
          <td>
            {#if message.time}{message.time.there}
              <span class="quiet"
                >{message.time.place}{message.time.here ? ` · ${message.time.here} here` : ''}</span
              >{/if}
          </td>
          <td>{message.reader ?? ''} <span class="quiet">{message.to}</span></td>
          <td
            ><a href="/post-room/{message.id}">{message.subject}</a>{#if message.copies > 1}<span
                class="brick-text block">received {message.copies} times, same Message-ID</span
              >{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="mt-3 flex gap-2">
    {#if data.offset > 0}<a class="button" href={page(Math.max(0, data.offset - 50))}>Newer</a>{/if}
    {#if data.offset + data.messages.length < data.total}<a class="button" href={page(data.offset + 50)}
        >Older</a
      >{/if}
  </p>
{/if}
