<script lang="ts">
  import Pages from '$lib/ui/record/Pages.svelte';
  import RecordFilters from '$lib/ui/record/RecordFilters.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
</script>

<svelte:head><title>Outbox · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Outbox</h1>
  <span class="quiet">every notice and its result, newest first</span>
  <span class="quiet ml-auto">Times in {data.place} (your zone)</span>
</div>
<RecordFilters
  first={{ name: 'end', label: 'Result', options: data.ends.map((value) => ({ value, label: value })) }}
  searches="Name of the task"
  rules={data.rules}
  people={data.people}
  files={['/outbox/outbox.csv', '/outbox/outbox.jsonl']}
/>
{#if data.tests.length > 0}
  <details class="tests">
    <summary>Test messages, the last: {data.tests[0]!.at}, {data.tests[0]!.end}</summary>
    <table>
      <thead><tr><th>Sent</th><th>To</th><th>Channel</th><th>Result</th></tr></thead>
      <tbody>
        {#each data.tests as { id, at, to, channel, end, why } (id)}
          <tr>
            <td class="whitespace-nowrap">{at}</td>
            <td>{to}</td>
            <td>{channel}</td>
            <td
              ><span class="end {end === 'taken' ? 'sent' : end}">{end}</span>{#if why}<span
                  class="quiet block">{why}</span
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </details>
{/if}
{#if data.rows.length === 0}
  <p class="py-4">No notice matches. A notice is listed once its ring time has passed.</p>
{:else}
  <table class="mt-2">
    <caption class="sr">Notices, newest first</caption>
    <thead
      ><tr
        ><th>Ring time</th><th>Send time</th><th>Task</th><th>Rule</th><th>To</th><th>Kind</th><th>Channel</th
        ><th>Result</th></tr
      ></thead
    >
    <tbody>
      {#each data.rows as row (row.id)}
        <tr>
          <td class="whitespace-nowrap">{row.ringAt}</td>
          <td class="whitespace-nowrap">{row.leavesAt}</td>
          <td
            >{#if row.taskId}<a href="/tasks/{row.taskId}">{row.task}</a>{:else}{row.task}{/if}</td
          >
          <td
            >{#if row.runId}<a href="/rules/{row.ruleId}/runs/{row.runId}">{row.rule}</a
              >{:else}{row.rule}{/if}</td
          >
          <td
            >{row.recipient}{#if row.reader}<span class="quiet block">read by {row.reader}</span>{/if}</td
          >
          <td class="whitespace-nowrap">{row.kind}</td>
          <td>{row.channels}</td>
          <td
            ><span class="end {row.tone}">{row.end}</span>{#if row.why}<span class="quiet block"
                >{row.why}</span
              >{/if}{#each row.replies as reply, i (i)}<details class="reply">
                <summary
                  >{reply.automatic ? 'automatic answer' : 'answer'} from {reply.from}, {reply.at}</summary
                >
                <p>{reply.text || 'It has no text.'}</p>
              </details>{/each}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <Pages next={data.next} />
{/if}

<style>
  .reply p {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    max-width: 40ch;
    margin: 4px 0 0;
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
  .end {
    font-weight: 600;
    white-space: nowrap;
  }
  .sent {
    color: var(--sea);
  }
  .waiting {
    color: var(--slate);
  }
  .failed {
    color: var(--brick);
  }
  .quiet.end,
  .end.quiet {
    font-weight: 450;
  }
</style>
