<script lang="ts">
  import Pages from '$lib/ui/record/Pages.svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { foldRows } from '$lib/ui/record/folded.ts';
  import type { JournalRowView } from '$lib/view/record.ts';
  import RecordFilters from '$lib/ui/record/RecordFilters.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const folded = $derived(foldRows(data.rows));
  const opened = new SvelteSet<number>();

  function turn(id: number) {
    if (!opened.delete(id)) opened.add(id);
  }
</script>

<svelte:head><title>Journal · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Journal</h1>
  <span class="quiet">every event, with the person or rule</span>
  <span class="quiet ml-auto">Times in {data.place} (your zone)</span>
</div>
<RecordFilters
  first={{ name: 'way', label: 'Source', options: data.ways }}
  searches="Search entries"
  rules={data.rules}
  people={data.people}
  files={['/journal/journal.csv', '/journal/journal.jsonl']}
/>
{#if data.rows.length === 0}
  <p class="py-4">No entry matches.</p>
{:else}
  <table class="mt-2">
    <caption class="sr">Entries, newest first</caption>
    <thead><tr><th>Time</th><th>What happened</th><th>By</th><th>Source</th></tr></thead>
    <tbody>
      {#each folded as { first, more } (first.id)}
        {@render line(first)}
        {#if more.length > 0}
          {#if opened.has(first.id)}{#each more as row (row.id)}{@render line(row)}{/each}{/if}
          <tr class="more"
            ><td></td><td colspan="3"
              ><button
                class="button plain"
                aria-expanded={opened.has(first.id)}
                onclick={() => turn(first.id)}
                >{opened.has(first.id)
                  ? 'Show fewer'
                  : `${more.length} more by ${first.by} in this minute`}</button
              ></td
            ></tr
          >
        {/if}
      {/each}
    </tbody>
  </table>
  <Pages next={data.next} />
{/if}

{#snippet line(row: JournalRowView)}
  <tr>
    <td class="whitespace-nowrap">{row.at}</td>
    <td class:undone={row.undone}
      >{#if row.changeId}<a href="/changes/{row.changeId}">{row.what}</a>{:else}{row.what}{/if}<span
        class="quiet">{row.undone ? ' · undone later' : ''}</span
      ></td
    >
    <td
      >{#if row.runId && row.ruleId}<a href="/rules/{row.ruleId}/runs/{row.runId}">{row.by}</a
        >{:else}{row.by}{/if}</td
    >
    <td class="quiet whitespace-nowrap">{row.way}</td>
  </tr>
{/snippet}

<style>
  .more td {
    padding-top: 0;
  }
  .undone {
    color: var(--ink-3);
  }
</style>
