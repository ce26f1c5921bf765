<script lang="ts">
  import { page } from '$app/state';
  import EndMark from '$lib/ui/record/EndMark.svelte';
  import OutboxTable from '$lib/ui/record/OutboxTable.svelte';
  import Pages from '$lib/ui/record/Pages.svelte';
  import RecordFilters from '$lib/ui/record/RecordFilters.svelte';
  import { withParameter } from '$lib/ui/record/address.ts';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
</script>

<svelte:head><title>Outbox · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Outbox</h1>
  <span class="quiet">every notice, by when it leaves or left</span>
  <span class="quiet ml-auto">Times in {data.place} (your zone)</span>
</div>
<RecordFilters
  first={{ name: 'end', label: 'End', options: data.ends.map((value) => ({ value, label: value })) }}
  searches="Name of the task"
  rules={data.rules}
  people={data.people}
  files={['/outbox/outbox.csv', '/outbox/outbox.jsonl']}
/>
{#if data.tests.length > 0}
  <details class="tests">
    <summary>Test messages, the last: {data.tests[0]!.at}, {data.tests[0]!.end}</summary>
    <table>
      <thead><tr><th>Sent</th><th>To</th><th>Channel</th><th>End</th></tr></thead>
      <tbody>
        {#each data.tests as { id, at, to, channel, end, why } (id)}
          <tr>
            <td class="whitespace-nowrap">{at}</td>
            <td>{to}</td>
            <td>{channel}</td>
            <td
              ><EndMark mark={end === 'taken' ? 'sent' : end} words={end} />{#if why}<span class="quiet block"
                  >{why}</span
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </details>
{/if}
{#if data.next.length > 0}
  <h2>Leaving next</h2>
  <OutboxTable rows={data.next} caption="What leaves next, the soonest first" when="Leaves" />
  {#if data.moreWait}<p class="more">
      <a href={withParameter(page.url, 'end', 'waiting')}>Everything that waits</a>
    </p>{/if}
{/if}
{#if data.rows.length > 0}
  {#if data.next.length > 0}<h2>Left or ended</h2>{/if}
  <OutboxTable
    rows={data.rows}
    caption={data.waiting ? 'What waits, the soonest first' : 'What has left or ended, the last first'}
    when={data.waiting ? 'Leaves' : 'Left or ended'}
  />
  <Pages
    next={data.further}
    on={data.waiting ? 'Later' : 'Older'}
    first={data.waiting ? 'Soonest' : 'Newest'}
  />
{:else if data.next.length === 0}
  <p class="py-4">No notice matches. A notice is listed once its ring time has passed.</p>
{/if}

<style>
  h2 {
    margin: 14px 0 2px;
    font-size: 15px;
    font-weight: 600;
  }
  .more {
    margin: 6px 0 0;
    font-size: 13px;
  }
  .tests {
    margin-top: 8px;
  }
  .tests summary {
    cursor: pointer;
    width: fit-content;
    font-size: 13px;
    color: var(--ink-2);
  }
</style>
