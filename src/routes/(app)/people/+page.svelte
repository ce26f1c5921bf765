<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import Plus from '@lucide/svelte/icons/plus';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import Week from '$lib/ui/person/Week.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const bells = new Later(() => data.bells);
  const adoption = new Later(() => Promise.resolve(data.adoption));
  /** When those who have not looked at their Desk for ten working days last did. */
  const away = $derived(new Map(adoption.value?.away.map(({ id, last }) => [id, last])));
</script>

<svelte:head><title>People · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>People</h1>
  <span class="quiet">{many(data.count, 'person', 'people')}</span>
  {#if data.mayEdit}
    <span class="ml-auto flex flex-wrap gap-2">
      <a class="button" href="/people/contacts">Outside contacts</a>
      <a class="button" href="/people/leave">Leave from a file</a>
      <a class="button" href="/people/sheet">Import or export</a>
      <a class="button main" href="/people/new"><Plus size={16} strokeWidth={1.75} />Add a person</a>
    </span>
  {/if}
</div>

{#if data.groups.length > 0}
  <nav class="mt-2 flex flex-wrap gap-3 text-[13px]" aria-label="Groups">
    <a href="/people" aria-current={data.group === '' ? 'true' : undefined}>Everybody</a>
    {#each data.groups as { id, name, members } (id)}
      <a
        href="/people?group={encodeURIComponent(name)}"
        aria-current={data.group === name ? 'true' : undefined}>{name} <span class="quiet">{members}</span></a
      >
    {/each}
  </nav>
{/if}

{#if data.silent.length > 0}
  <div class="band brick mt-3">
    <b>Cannot be reached</b>
    <ul>
      {#each data.silent as { id, name, unreachable } (id)}<li>
          <a href="/people/{id}">{name}</a>: {unreachable}
        </li>{/each}
    </ul>
  </div>
{/if}

{#if adoption.failed}<LaterFault what="Who looks at their Desk" />{/if}
{#if bells.failed}<LaterFault what="Notices per person" />{/if}
<table class="mt-3">
  <caption class="sr">People, where they are and when they work</caption>
  <thead
    ><tr
      ><th>Name</th><th>Local time</th><th>Week</th><th>Next leave</th><th>Manager</th><th>Mail</th><th
        >Notices, 7 days<span class="block plain">of tasks that you see</span></th
      ></tr
    ></thead
  >
  <tbody>
    {#each data.people as person (person.id)}
      <tr class:inactive={!person.active}>
        <td
          ><a href="/people/{person.id}">{person.name}</a>
          {#if !person.active}<span class="quiet block">deactivated</span>
          {:else if person.role !== 'owner'}<span class="quiet block">{person.role}</span>{/if}
          {#if away.has(person.id)}<span class="slate-text block">Desk looked at: {away.get(person.id)}</span
            >{/if}</td
        >
        <td
          >{person.localTime} <span class="quiet">{person.place}</span><span
            class="block {person.presence.word === 'at work'
              ? 'sea-text'
              : person.presence.word === 'on leave'
                ? 'slate-text'
                : 'quiet'}"
            >{person.presence.word}{person.presence.word === 'on leave'
              ? ` until ${person.presence.until}`
              : ''}</span
          ></td
        >
        <td><Week week={person.week} /><span class="quiet block">{person.calendar}</span></td>
        <td>
          {#if person.leave && !person.leave.over}<span class="block"
              >leave {person.leave.text}{#if person.leave.standIn}<span class="quiet"
                  >, stand-in: {person.leave.standIn}</span
                >{/if}</span
            >{/if}
          {#if person.holiday}<span class="quiet block"
              >{person.holiday.date}, {person.holiday.name ?? 'closed'}</span
            >{:else}<span class="quiet">no holidays</span>{/if}
        </td>
        <td>{person.manager ?? ''}</td>
        <td class="mail"
          >{#if person.email}{person.email.split('@')[0]}<wbr />@{person.email.split('@')[1]}{:else}<span
              class="brick-text">no address</span
            >{/if}</td
        >
        <td>{bells.value ? (bells.value[person.id] ?? 0) : bells.failed ? '' : '…'}</td>
      </tr>
    {/each}
  </tbody>
</table>
{#if data.count > data.people.length}
  <p class="mt-3">
    <a class="button" href="/people?all=yes{data.group ? `&group=${encodeURIComponent(data.group)}` : ''}"
      >List all {data.count}</a
    >
    <span class="quiet">The first {data.people.length} are listed. Press / to find somebody by name.</span>
  </p>
{/if}

<style>
  .mail {
    overflow-wrap: anywhere;
  }
  .plain {
    font-weight: 400;
    font-size: inherit;
  }
  .inactive {
    opacity: 0.7;
  }
  nav a[aria-current] {
    font-weight: 600;
    text-decoration-color: var(--brass);
    text-decoration-thickness: 2px;
  }
</style>
