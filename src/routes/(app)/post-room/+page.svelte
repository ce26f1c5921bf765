<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { CHANNEL, CHANNELS } from '$lib/core/channel/channels.ts';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const FAULT_WORDS = {
    none: 'accept every message',
    'try-later': 'ask to try again later',
    refuse: 'refuse permanently',
    sender: 'refuse the sender',
    slow: 'answer after 20 seconds',
    drop: 'cut the connection',
    bounce: 'accept, then report failure'
  } as const;
  const page = (from: number) => {
    const { search, channel, readerId } = data;
    const asked = { search, channel: channel ?? '', reader: readerId === null ? '' : String(readerId) };
    const given = Object.entries({ ...asked, from: String(from) }).filter(([, value]) => value !== '');
    return `/post-room?${new URLSearchParams(given)}`;
  };
  const sought = $derived(data.search !== '' || data.channel !== null || data.readerId !== null);
</script>

<svelte:head><title>Post room · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Post room</h1>
  <span class="quiet">messages exactly as they were received</span>
</div>

{#if data.faults.length > 0}
  <details class="try" open={data.faults.some(({ fault }) => fault !== 'none')}>
    <summary>Try what happens when messages fail</summary>
    <p class="quiet">
      These always fail: addresses and names starting with <b>nobody-</b>, and numbers starting with
      <b>+000</b>.
    </p>
    <div class="faults mt-2">
      {#each data.faults as { channel, fault, choices } (channel)}
        <form method="POST" action="?/fault" use:enhance>
          <input type="hidden" name="channel" value={channel} />
          <label class="field">
            <span class="label">Post room’s {channel}</span>
            <select
              class="value"
              name="fault"
              onchange={(event) => event.currentTarget.form?.requestSubmit()}
            >
              {#each choices as value (value)}<option {value} selected={fault === value}
                  >{FAULT_WORDS[value]}</option
                >{/each}
            </select>
          </label>
        </form>
      {/each}
    </div>
  </details>
{/if}

<form method="GET" class="mt-3 mb-3 flex flex-wrap items-end gap-2" data-sveltekit-keepfocus>
  <label class="field">
    <span class="label">Search</span>
    <input class="value" type="search" name="search" value={data.search} />
  </label>
  <label class="field">
    <span class="label">Reader</span>
    <select class="value" name="reader" onchange={(event) => event.currentTarget.form?.requestSubmit()}>
      <option value="">everybody</option>
      {#each data.people as { id, name } (id)}<option value={id} selected={data.readerId === id}
          >{name}</option
        >{/each}
    </select>
  </label>
  <label class="field">
    <span class="label">Channel</span>
    <select class="value" name="channel" onchange={(event) => event.currentTarget.form?.requestSubmit()}>
      <option value="">every channel</option>
      {#each CHANNELS as channel (channel)}<option value={channel} selected={data.channel === channel}
          >{CHANNEL[channel].words}</option
        >{/each}
    </select>
  </label>
  <button class="button">Search</button>
  <span class="quiet pb-1">{many(data.total, 'message')}</span>
</form>

{#if data.closed}
  <p class="band brick" role="alert">
    <b>Closed</b><span>{data.closed} Messages stay in the outbox and are sent again.</span>
  </p>
{:else if data.messages.length === 0}
  <p class="py-3">
    {sought ? 'No message matches.' : 'No messages yet. Move the clock to the next bell.'}
  </p>
{:else}
  <table>
    <caption class="sr">Messages, newest first</caption>
    <thead><tr><th>Sent</th><th>By</th><th>To</th><th>Subject</th></tr></thead>
    <tbody>
      {#each data.messages as message (message.key)}
        <tr>
          <td>
            {#if message.time}{message.time.there}
              <span class="quiet"
                >{message.time.place}{message.time.here ? ` · ${message.time.here} here` : ''}</span
              >{/if}
          </td>
          <td class="whitespace-nowrap">{CHANNEL[message.channel].words}</td>
          <td>{message.reader ?? ''} <span class="quiet">{message.to}</span></td>
          <td
            ><a href="/post-room/{message.key}">{message.subject}</a>{#if message.copies > 1}<span
                class="brick-text block">the same message, received {message.copies} times</span
              >{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="mt-3 flex gap-2">
    {#if data.offset > 0}<a class="button" href={page(Math.max(0, data.offset - data.size))}>Newer</a>{/if}
    {#if data.offset + data.messages.length < data.total}<a
        class="button"
        href={page(data.offset + data.size)}>Older</a
      >{/if}
  </p>
{/if}

<style>
  .try summary {
    cursor: pointer;
    width: fit-content;
    font-size: 13px;
    color: var(--ink-2);
  }
  .faults {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 16px;
  }
</style>
