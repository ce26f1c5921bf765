<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitLook } from '$lib/ui/form/submit.ts';
  import type { PageData } from './$types';

  /** How a file is read: which column is what, how dates are, what unknown names mean. Each choice is looked at anew. */
  let { review, columns }: Pick<PageData, 'review' | 'columns'> = $props();

  const KNOWN = {
    'leave out': 'skip them',
    update: 'update the tasks',
    'add again': 'add them again'
  } as const;
  const UNMATCHED = {
    owner: 'nobody yet',
    project: 'a new project',
    status: 'nothing yet',
    priority: 'nothing yet'
  };
  const LEFT_EMPTY = {
    owner: 'no owner',
    project: 'no project',
    status: 'the first status',
    priority: 'ordinary, as without a priority'
  };

  function choose(event: Event) {
    (event.currentTarget as HTMLSelectElement).form?.requestSubmit();
  }
</script>

<form method="POST" action="?/choose" use:enhance={submitLook} class="mt-4">
  <h2>Columns</h2>
  <div class="columns">
    {#each columns as { name, label } (name)}
      <label class="field">
        <span class="label">{label}{name === 'name' ? ' (needed)' : ''}</span>
        <select
          class="value"
          name="column.{name}"
          onchange={choose}
          aria-invalid={review.missing.includes(name)}
        >
          <option value="">not in this file</option>
          {#each review.header as heading, index (index)}
            <option value={index} selected={review.choices.mapping[name] === index}
              >{heading || `column ${index + 1}`}</option
            >
          {/each}
        </select>
      </label>
    {/each}
    <label class="field">
      <span class="label">Dates like 03/04/2026</span>
      <select class="value" name="dateOrder" onchange={choose} aria-invalid={review.ambiguousDate !== null}>
        <option value="" selected={review.choices.dateOrder === null}
          >{review.ambiguousDate ? 'choose' : 'none, or not ambiguous'}</option
        >
        <option value="day-first" selected={review.choices.dateOrder === 'day-first'}
          >day first: 3 April</option
        >
        <option value="month-first" selected={review.choices.dateOrder === 'month-first'}
          >month first: March 4</option
        >
      </select>
    </label>
    <label class="field">
      <span class="label">Rows with an unknown owner</span>
      <select class="value" name="unknownOwners" onchange={choose}>
        <option value="skip" selected={review.choices.unknownOwners === 'skip'}>skip them</option>
        <option value="unowned" selected={review.choices.unknownOwners === 'unowned'}
          >import them without an owner</option
        >
      </select>
    </label>
    <label class="field">
      <span class="label">Rows that exist already</span>
      <select class="value" name="known" onchange={choose}>
        {#each Object.entries(KNOWN) as [value, words] (value)}
          <option {value} selected={review.choices.known === value}>{words}</option>
        {/each}
      </select>
    </label>
  </div>
  <p class="quiet mt-2">
    A row with a key updates the task imported with that key. Without a key, a row exists already if a task
    has the same title, project and due date.
  </p>
  {#if review.names.length > 0}
    <h2 class="mt-6">Unknown names</h2>
    <table class="names">
      <thead><tr><th>In the file</th><th>As</th><th>Rows</th><th>Means</th></tr></thead>
      <tbody>
        {#each review.names as { column, text, rows, chosen, near } (column + text)}
          <tr>
            <td>{text}</td><td>{column}</td><td>{rows.toLocaleString('en')}</td>
            <td>
              <select
                class="value"
                name="match {column} {text}"
                aria-label="What {text} means"
                onchange={choose}
              >
                <option value="" selected={chosen === ''}>{UNMATCHED[column]}</option>
                <option value="none" selected={chosen === 'none'}>{LEFT_EMPTY[column]}</option>
                {#each review.nameChoices[column] as { value, label } (value)}
                  <option {value} selected={chosen === value}
                    >{label}{value === near ? ' (the nearest)' : ''}</option
                  >
                {/each}
              </select>
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if review.names.some(({ chosen, near }) => chosen === '' && near !== null)}
      <p class="mt-2"><button class="button" formaction="?/nearest">Use the nearest name for each</button></p>
    {/if}
  {/if}
  <noscript><button class="button">Check again</button></noscript>
</form>

<style>
  .columns {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
    gap: 10px 14px;
    margin-top: 8px;
  }
  .columns .field {
    grid-template-columns: minmax(0, 1fr);
  }
</style>
