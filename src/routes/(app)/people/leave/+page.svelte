<script lang="ts">
  import FileField from '$lib/ui/parts/FileField.svelte';
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, submitLook, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const rows = $derived(form?.rows ?? []);
  const good = $derived(rows.filter(({ act }) => act === 'is entered').length);
</script>

<svelte:head><title>Leave from a file · Early Bell</title></svelte:head>

<p class="quiet"><a href="/people">People</a></p>
<h1>Leave from a file</h1>
<p class="quiet mt-2">
  A CSV file with the columns “person” and “from”. Optional: until, stand-in, note. Or a calendar file (ICS):
  each event belongs to its attendees or to the person named in its title. Both days are included. Known leave
  is not entered again. Nothing is saved until you confirm.
</p>
{#if form?.message}<p class="band brick mt-2" role="alert">
    <b>Not read</b><span>{form.message}</span>
  </p>{/if}
<form
  method="POST"
  action="?/look"
  enctype="multipart/form-data"
  use:enhance={submitLook}
  class="mt-2 grid max-w-[760px] gap-2"
>
  <FileField label="A file" name="file" accept=".csv,.ics,text/csv,text/calendar" />
  <label class="quiet" for="leave-text">or paste rows</label>
  <textarea id="leave-text" class="value" name="text" rows="5" placeholder="person,from,until,stand-in"
    >{form?.text ?? ''}</textarea
  >
  <label class="quiet" for="leave-person">Events without a name belong to</label>
  <select id="leave-person" class="value" name="person">
    <option value="">nobody: skip these rows</option>
    {#each data.people as { id, name } (id)}
      <option value={id} selected={form?.otherwise === id}>{name}</option>
    {/each}
  </select>
  <p><button class="button">Check</button></p>
</form>

{#if rows.length > 0}
  <h2 class="mt-4">Preview</h2>
  <table class="max-w-[860px]">
    <caption class="sr">Leave in the file</caption>
    <thead><tr><th>Line</th><th>Who</th><th>When</th><th>What happens</th></tr></thead>
    <tbody>
      {#each rows.slice(0, 200) as row (row.line)}
        <tr
          ><td>{row.line}</td><td>{row.name}</td><td>{row.when}</td><td class:brick-text={row.problem}
            >{row.problem ? `skipped: ${row.problem}` : row.act}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
  {#if rows.length > 200}<p class="quiet">and {rows.length - 200} more</p>{/if}
  {#if good > 0}
    <form method="POST" action="?/confirm" use:enhance={submitDone(done)} class="mt-3">
      <input type="hidden" name="text" value={form?.text} />
      <input type="hidden" name="person" value={form?.otherwise ?? ''} />
      <button class="button main">Enter {many(good, 'leave')}</button>
    </form>
  {/if}
{/if}
