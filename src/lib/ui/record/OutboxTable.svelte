<script lang="ts">
  import type { OutboxRowView } from '$lib/view/record.ts';
  import Turn from '../table/Turn.svelte';
  import Under from '../table/Under.svelte';
  import EndMark from './EndMark.svelte';

  /** Notices by when they leave or left, each with its end; its why opens under it. */
  let { rows, caption, when }: { rows: readonly OutboxRowView[]; caption: string; when: string } = $props();

  /** The row whose why is open. */
  let opened = $state<number | null>(null);
</script>

<table>
  <caption class="sr">{caption}</caption>
  <thead
    ><tr
      ><th class="when">{when}</th><th class="how">End</th><th>Task</th><th class="who">To</th><th
        class="rule">Rule</th
      ></tr
    ></thead
  >
  <tbody>
    {#each rows as row (row.id)}
      <tr>
        <td class="when">
          {#if row.steps.length > 0}
            <Turn
              open={opened === row.id}
              controls="why-{row.id}"
              onpress={() => (opened = opened === row.id ? null : row.id)}
              >{row.at}<span class="sr">, why</span></Turn
            >
          {:else}<span class="time">{row.at}</span>{/if}
          {#if row.rangAt}<span class="quiet under">rang {row.rangAt}</span>{/if}
        </td>
        <td
          ><EndMark mark={row.mark} words={row.end} />{#if row.why}<span class="quiet block">{row.why}</span
            >{/if}{#each row.replies as reply, i (i)}<details class="reply">
              <summary
                >{reply.automatic ? 'automatic answer' : 'answer'} from {reply.from}, {reply.at}</summary
              >
              <p>{reply.text || 'It has no text.'}</p>
            </details>{/each}</td
        >
        <td
          >{#if row.taskId}<a href="/tasks/{row.taskId}">{row.task}</a>{:else}{row.task}{/if}<span
            class="quiet block">{row.kind}</span
          ></td
        >
        <td
          >{row.recipient}{#if row.reader}<span class="quiet block">read by {row.reader}</span
            >{/if}{#if row.channels}<span class="quiet block">by {row.channels}</span>{/if}</td
        >
        <td
          >{#if row.runId}<a href="/rules/{row.ruleId}/runs/{row.runId}">{row.rule}</a
            >{:else}{row.rule}{/if}</td
        >
      </tr>
      {#if opened === row.id}
        <Under id="why-{row.id}" columns={5}>
          <ol>
            {#each row.steps as step, i (i)}<li>{step}</li>{/each}
          </ol>
        </Under>
      {/if}
    {/each}
  </tbody>
</table>

<style>
  .when {
    width: 17%;
    white-space: nowrap;
  }
  .how,
  .rule {
    width: 19%;
  }
  .who {
    width: 14%;
  }
  .time {
    font-weight: 500;
  }
  .under {
    display: block;
    padding-left: 14px;
    white-space: nowrap;
  }
  .reply p {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    max-width: 40ch;
    margin: 4px 0 0;
  }
</style>
