<script lang="ts">
  import Switch from '../parts/Switch.svelte';
  import BellRing from '@lucide/svelte/icons/bell-ring';
  import type { BehindBellRow } from '$lib/view/behind-bell.ts';
  import type { Bell } from './bell.svelte.ts';

  /** What was said to whoever is signed in: what is about tasks, and the rest. */
  interface Props {
    bell: Bell;
    /** As the frame counted them last. */
    unseen: number;
  }

  let { bell, unseen }: Props = $props();
  let open = $state(false);
  let box: HTMLDetailsElement | undefined = $state();
  const count = $derived(bell.view?.unseen ?? unseen);
  const shown = $derived(count > 99 ? '99+' : String(count));

  function follow(row: BehindBellRow) {
    open = false;
    if (row.isNew) void bell.see(row.id);
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key !== 'Escape' || !open) return;
    open = false;
    box?.querySelector('summary')?.focus();
  }
</script>

<svelte:window
  {onkeydown}
  onclick={(event) => {
    if (open && !box?.contains(event.target as Node)) open = false;
  }}
/>

<details
  bind:this={box}
  bind:open
  class="bell"
  ontoggle={(event) => {
    if (event.currentTarget.open) void bell.open();
  }}
>
  <summary aria-label={count === 0 ? 'Notices: nothing new' : `Notices: ${shown} new`} title="Your notices"
    ><BellRing size={17} strokeWidth={1.75} />{#if count > 0}<b>{shown}</b>{/if}</summary
  >
  {#if open}
    <div class="sheet" role="group" aria-label="Your notices">
      {#if bell.view === null}<p class="quiet">Loading…</p>
      {:else if bell.view.tasks.length + bell.view.rest.length === 0}
        <p>You have no notices.</p>
        <p class="quiet">Choose what comes here on your page, under “Channels”.</p>
      {:else}
        {#if bell.view.unseen > 0}<p>
            <button class="button" onclick={() => void bell.see(null)}>Clear “new” marks</button>
          </p>{/if}
        {#each [{ caption: 'About tasks', rows: bell.view.tasks }, { caption: 'The rest', rows: bell.view.rest }] as { caption, rows } (caption)}
          {#if rows.length > 0}
            <h2>{caption}</h2>
            <ul>
              {#each rows as row (row.id)}
                <li class:new={row.isNew}>
                  <span class="at"
                    >{row.at}{#if row.isNew}<b>new</b>{/if}</span
                  >
                  <span class="what">
                    {#if row.href}<a href={row.href} onclick={() => follow(row)}>{row.subject}</a>
                    {:else}{row.subject}{/if}
                    {#if row.words}<span class="quiet">{row.words}</span>{/if}
                  </span>
                </li>
              {/each}
            </ul>
          {/if}
        {/each}
      {/if}
      <div class="how">
        <Switch label="Play a sound" checked={bell.sound} onchange={(sound) => bell.setSound(sound)} />
        {#if bell.permission === 'unasked'}<button class="button" onclick={() => void bell.ask()}
            >Also in the background</button
          >
        {:else if bell.permission === 'granted'}<span class="quiet"
            >Browser notices, while a page is open.</span
          >
        {:else if bell.permission === 'denied'}<span class="quiet"
            >Your browser blocks notices. Change this in its settings.</span
          >{/if}
      </div>
    </div>
  {/if}
</details>

<style>
  .bell {
    position: relative;
  }
  summary {
    position: relative;
    display: grid;
    place-content: center;
    width: 32px;
    height: 28px;
    border-radius: 7px;
    cursor: pointer;
    list-style: none;
  }
  summary b {
    position: absolute;
    top: -4px;
    right: -5px;
    min-width: 17px;
    padding: 0 4px;
    border-radius: 9px;
    background: var(--brass-ink);
    color: var(--sheet);
    font-size: 11px;
    line-height: 16px;
    text-align: center;
    font-variant-numeric: tabular-nums;
  }
  .sheet {
    position: absolute;
    right: 0;
    top: 36px;
    z-index: 30;
    width: min(430px, calc(100vw - 40px));
    max-height: min(560px, 75vh);
    overflow-y: auto;
    padding: 12px 16px;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
    font-size: 13px;
  }
  h2 {
    margin: 6px 0 2px;
    font-size: 14px;
  }
  li {
    display: grid;
    grid-template-columns: 108px minmax(0, 1fr);
    gap: 10px;
    padding: 7px 0;
    border-top: 1px solid var(--line-soft);
  }
  .at {
    color: var(--ink-2);
    font-size: 12px;
    font-variant-numeric: tabular-nums;
  }
  .at b {
    display: block;
    color: var(--brass-ink);
    font-weight: 600;
  }
  .new .what {
    font-weight: 550;
  }
  .what {
    overflow-wrap: anywhere;
  }
  .what .quiet {
    display: block;
    font-weight: 400;
    white-space: pre-line;
  }
  .how {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 14px;
    margin-top: 8px;
    padding-top: 10px;
    border-top: 1px solid var(--line);
    font-size: 12px;
  }
  p {
    margin: 6px 0;
  }
  @media (max-width: 600px) {
    .sheet {
      position: fixed;
      inset: 56px 16px auto;
      width: auto;
    }
  }
</style>
