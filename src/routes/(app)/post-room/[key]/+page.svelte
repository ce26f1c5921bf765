<script lang="ts">
  import { CHANNEL } from '$lib/core/channel/channels.ts';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  // What came by mail has a page and headers, what was posted what was posted; what stands in the app has its words alone.
  const last = $derived(data.channel === 'mail' ? 'headers' : 'raw');
  const sides = $derived([
    ...(data.html ? ['as a page'] : []),
    'as text',
    ...(data.headers ? [last] : []),
    ...data.files.map(({ name }) => name)
  ]);
  let picked = $state('as a page');
  const side = $derived(sides.includes(picked) ? picked : sides[0]!);
  const file = $derived(data.files.find(({ name }) => name === side));
</script>

<svelte:head><title>{data.subject} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/post-room">Post room</a></p>
<h1 class="[overflow-wrap:anywhere]">{data.subject}</h1>
<p class="mb-4">
  by {CHANNEL[data.channel].words} to {data.reader ?? ''} <span class="quiet">{data.to}</span>
  {#if data.time}· {data.time.there}
    <span class="quiet">{data.time.place}{data.time.here ? ` · ${data.time.here} here` : ''}</span>{/if}
</p>

<div class="mb-3 flex gap-2" role="group" aria-label="Layout">
  {#each sides as name (name)}<button
      class="button"
      class:on={side === name}
      aria-pressed={side === name}
      onclick={() => (picked = name)}>{name}</button
    >{/each}
</div>

{#if side === 'as a page'}
  <!-- The message is somebody's words: it is shown without scripts, forms or a way out of its frame. -->
  <iframe title="The message as a page" sandbox="" srcdoc={data.html}></iframe>
{:else if side === 'as text'}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <pre class="sheet" data-testid="message-text" tabindex="0">{data.text}</pre>
{:else}
  {#if file}<p class="quiet mb-2">{file.name}, attachment, {file.type}</p>{/if}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <pre class="sheet" tabindex="0">{file ? file.text : data.headers}</pre>
{/if}

<style>
  iframe {
    width: 100%;
    max-width: 720px;
    height: 460px;
    border: 1px solid var(--line);
    border-radius: 9px;
    background: #f6f2e9;
    color-scheme: light;
  }
  pre {
    max-width: 720px;
    padding: 16px 18px;
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    font:
      13px/1.5 ui-monospace,
      monospace;
  }
  .on {
    background: var(--ink);
    color: var(--paper);
    border-color: var(--ink);
  }
</style>
