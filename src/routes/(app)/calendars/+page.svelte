<script lang="ts">
  import { enhance } from '$app/forms';
  import Plus from '@lucide/svelte/icons/plus';
  import { getContext } from 'svelte';
  import YearStrip from '$lib/ui/calendar/YearStrip.svelte';
  import Week from '$lib/ui/person/Week.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<svelte:head><title>Calendars · Early Bell</title></svelte:head>

<div class="flex items-baseline gap-3">
  <h1>Calendars</h1>
  <span class="quiet">weeks and holidays used to count ring times</span>
  {#if data.mayKeep}
    <form method="POST" action="?/add" use:enhance={submitDone(done)} class="ml-auto">
      <button class="button main"><Plus size={16} strokeWidth={1.75} />New calendar</button>
    </form>
  {/if}
</div>

<table class="mt-3">
  <caption class="sr">Calendars</caption>
  <thead
    ><tr
      ><th>Name</th><th>Week</th><th class="year">{data.calendars[0]?.strip.year}</th><th>Next closed day</th
      ><th>Used by</th></tr
    ></thead
  >
  <tbody>
    {#each data.calendars as calendar (calendar.id)}
      <tr>
        <td
          ><a href="/calendars/{calendar.id}">{calendar.name}</a>{#if calendar.isWorkspace}<span
              class="quiet block">the workspace’s</span
            >{/if}</td
        >
        <td
          ><Week week={calendar.week} />{#each calendar.later as from (from)}<span class="quiet block"
              >another from {from}</span
            >{/each}</td
        >
        <td class="year"><YearStrip strip={calendar.strip} /></td>
        <td
          >{#if calendar.next}{calendar.next}<span class="quiet block">holidays up to {calendar.until}</span
            >{:else}<span class="quiet">no closed day to come</span>{/if}{#if calendar.lacks}<a
              class="brick-text block"
              href="/calendars/{calendar.id}">the holidays of {calendar.lacks} are not entered yet</a
            >{/if}</td
        >
        <td
          >{#if calendar.people.length > 0}{calendar.people.join(', ')}{:else}<span class="quiet">nobody</span
            >{/if}</td
        >
      </tr>
    {/each}
  </tbody>
</table>

<p class="quiet key">
  <span class="open"></span> open <span class="closed"></span> closed every week
  <span class="holiday"></span> closed day <span class="hours"></span> other hours
</p>

<style>
  .year {
    width: 38%;
  }
  td.year {
    vertical-align: middle;
  }
  .key {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 8px;
    margin-top: 12px;
  }
  .key span {
    width: 12px;
    height: 12px;
    background: var(--dim);
  }
  .key span:not(:first-child) {
    margin-left: 8px;
  }
  .key .open {
    background: var(--lit);
    box-shadow: inset 0 0 0 1px var(--lit-edge);
  }
  .key .holiday {
    width: 3px;
    height: 16px;
    background: var(--slate);
  }
  .key .hours {
    width: 3px;
    height: 8px;
    background: var(--brass-ink);
  }
</style>
