<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const failed = $derived(
    form && 'errors' in form
      ? (form as unknown as { errors: Record<string, string>; values: { id: number | null } })
      : null
  );
  const ANSWERS = [
    { value: 'keep', label: 'Keep' },
    { value: 'park', label: 'Park' },
    { value: 'close', label: 'Close' }
  ];
</script>

<svelte:head><title>Still needed? · Early Bell</title></svelte:head>

<h1>Still needed?</h1>
<p class="quiet lead">Nobody has changed these tasks of yours for a long time. Keep, park or close each.</p>
{#if data.asked.length === 0}
  <p class="py-4">No questions for you. <a href="/tasks">To your tasks</a>.</p>
{:else}
  <table>
    <caption class="sr">Tasks that are asked about, the most urgent first</caption>
    <thead><tr><th>Task</th><th>Last touched</th><th>If no answer</th><th>Answer</th></tr></thead>
    <tbody>
      {#each data.asked as one (one.id)}
        <tr>
          <td><a href="/tasks/{one.taskId}">{one.task}</a><span class="quiet block">{one.project}</span></td>
          <td class="whitespace-nowrap"><span class="label quiet">last touched</span> {one.touched}</td>
          <td class="whitespace-nowrap"
            ><span class="label quiet">without an answer</span> {one.otherwise} on {one.until}</td
          >
          <td>
            <form method="POST" action="?/answer" class="answers" use:enhance={submitDone(done)}>
              <input type="hidden" name="id" value={one.id} />
              {#each ANSWERS as { value, label } (value)}
                <button class="button" name="answer" {value} aria-label="{label} {one.task}">{label}</button>
              {/each}
            </form>
            {#if failed?.values.id === one.id}<p class="fault" role="alert">
                {Object.values(failed.errors)[0]}
              </p>{/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

<style>
  .lead {
    margin: 6px 0 12px;
  }
  .answers {
    display: flex;
    gap: 6px;
  }
  .label {
    display: none;
  }
  /* On a phone each task is a block of its own, with its answers below it. */
  @media (max-width: 640px) {
    thead {
      display: none;
    }
    table,
    tbody,
    tr,
    td {
      display: block;
    }
    tr {
      padding: 8px 0;
    }
    td {
      padding: 2px 0;
      border: 0;
    }
    tr + tr {
      border-top: 1px solid var(--line);
    }
    .label {
      display: inline;
    }
    .answers {
      margin-top: 4px;
    }
  }
</style>
