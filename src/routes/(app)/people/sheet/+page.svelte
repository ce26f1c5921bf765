<script lang="ts">
  import FileField from '$lib/ui/parts/FileField.svelte';
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, submitLook, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData } from './$types';

  let { form }: { form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const rows = $derived(form?.rows ?? []);
  const good = $derived(rows.filter(({ problem }) => problem === null).length);
</script>

<svelte:head><title>Import or export people · Early Bell</title></svelte:head>

<p class="quiet"><a href="/people">People</a></p>
<h1>Import or export</h1>
<p class="mt-2 mb-4">
  <a class="button" href="/people/sheet/people.csv" download>Export everybody (CSV)</a>
</p>

<h2>Import people</h2>
<p class="quiet">
  A CSV file with a “name” column. Optional: email, phone, zone, calendar, manager, role, groups, active. Rows
  are matched by address, then by name. Known people are updated. Nothing is saved until you confirm.
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
  <FileField label="A file" name="file" accept=".csv,text/csv" />
  <label class="quiet" for="sheet-text">or paste rows</label>
  <textarea id="sheet-text" class="value" name="text" rows="5" placeholder="name,email,zone"
    >{form?.text ?? ''}</textarea
  >
  <p><button class="button">Check</button></p>
</form>

{#if rows.length > 0}
  <h2 class="mt-4">Preview</h2>
  <table class="max-w-[860px]">
    <caption class="sr">Rows of the sheet</caption>
    <thead><tr><th>Line</th><th>Name</th><th>What happens</th></tr></thead>
    <tbody>
      {#each rows.slice(0, 200) as row (row.line)}
        <tr
          ><td>{row.line}</td><td>{row.name}</td><td class:brick-text={row.problem}
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
      <button class="button main">Import {many(good, 'person', 'people')}</button>
    </form>
  {/if}
{/if}
