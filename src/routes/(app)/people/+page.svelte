<script lang="ts">
  import Plus from '@lucide/svelte/icons/plus';
  import Week from '$lib/ui/person/Week.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
</script>

<svelte:head><title>People · Early Bell</title></svelte:head>

<div class="flex items-baseline gap-3">
  <h1>People</h1>
  <span class="quiet">{data.people.length} people</span>
  <a class="button main ml-auto" href="/people/new"><Plus size={16} strokeWidth={1.75} />Add a person</a>
</div>

<table class="mt-3">
  <caption class="sr">People, where they are and when they work</caption>
  <thead
    ><tr
      ><th>Name</th><th>There now</th><th>Week</th><th>Next holiday</th><th>Manager</th><th>Mail</th><th
        >Bells, 7 days</th
      ></tr
    ></thead
  >
  <tbody>
    {#each data.people as person (person.id)}
      <tr>
        <td
          ><a href="/people/{person.id}">{person.name}</a>{#if person.role !== 'owner'}<span
              class="quiet block">{person.role}</span
            >{/if}</td
        >
        <td
          >{person.localTime} <span class="quiet">{person.place}</span><span
            class="block {person.working ? 'sea-text' : 'quiet'}"
            >{person.working ? 'at work' : 'closed'}</span
          ></td
        >
        <td><Week week={person.week} /><span class="quiet block">{person.calendar}</span></td>
        <td
          >{#if person.holiday}{person.holiday.date}<span class="quiet block"
              >{person.holiday.name ?? 'closed'}</span
            >{:else}<span class="quiet">none set</span>{/if}</td
        >
        <td>{person.manager ?? ''}</td>
        <td class="mail"
          >{#if person.email}{person.email}{:else}<span class="brick-text">no address: cannot be told</span
            >{/if}</td
        >
        <td>{person.bells}</td>
      </tr>
    {/each}
  </tbody>
</table>

<style>
  .mail {
    overflow-wrap: anywhere;
  }
</style>
