<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import BellTable from '$lib/ui/bell/BellTable.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import PersonForm from '$lib/ui/person/PersonForm.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const failed = $derived(form && 'errors' in form ? form : null);
</script>

<svelte:head><title>{data.name} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/people">People</a></p>
<h1>{data.name}</h1>
<p class="mb-4">It is {data.there}.</p>

<div class="columns">
  <section>
    <h2>The next two weeks of bells</h2>
    {#if data.bells.length > 0}<BellTable
        bells={data.bells}
        caption="Bells for {data.name}"
        showPerson={false}
      />
    {:else}<p class="quiet">No rule will tell {data.name} anything in the next two weeks.</p>{/if}
    <h2 class="mt-5">When {data.name} works</h2>
    <p class="quiet">{data.calendar}</p>
    <table class="hours">
      <tbody>
        {#each data.week as { weekday, open } (weekday)}<tr
            ><th scope="row">{weekday}</th><td>{open || 'closed'}</td></tr
          >{/each}
      </tbody>
    </table>
    {#if data.holidays.length > 0}
      <h2 class="mt-5">Holidays to come</h2>
      <table class="hours">
        <tbody
          >{#each data.holidays as day (day.date)}<tr
              ><th scope="row">{day.date}</th><td
                >{day.name}{day.hours === 'closed' ? '' : `, ${day.hours}`}</td
              ></tr
            >{/each}</tbody
        >
      </table>
    {/if}
  </section>
  <section>
    <h2>The person</h2>
    <form method="POST" use:enhance={submitDone(done)} class="grid gap-4">
      <PersonForm
        values={failed?.values ?? data.values}
        choices={data.choices}
        errors={failed?.errors ?? {}}
      />
      <p><button class="button main">Save</button></p>
    </form>
  </section>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr);
    gap: 28px;
  }
  h2 {
    margin-bottom: 8px;
  }
  .hours {
    max-width: 420px;
  }
  .hours th {
    width: 110px;
    padding-top: 6px;
    border-color: var(--line-soft);
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
