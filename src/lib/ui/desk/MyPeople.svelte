<script lang="ts">
  import type { DeskRows, MyPersonView } from '$lib/view/desk.ts';
  import { readJson } from '$lib/ui/form/send.ts';
  import MoreRows from './MoreRows.svelte';
  import type { DeskAct } from './placer.svelte.ts';

  /** Those who answer to somebody: what stands on each one's Desk, and a word to them in one press. */
  let { people, act }: { people: readonly MyPersonView[]; act: DeskAct } = $props();
  let open = $state<number | null>(null);
  const read = (id: number) => (query: string, from: number) =>
    readJson<DeskRows>(`/people/${id}/desk/rows?${query}&from=${from}`);
</script>

<section aria-labelledby="my-people">
  <h2 id="my-people">My people <span class="count">{people.length}</span></h2>
  <ul>
    {#each people as person (person.id)}
      <li class="line">
        <button
          class="open"
          aria-expanded={open === person.id}
          onclick={() => (open = open === person.id ? null : person.id)}
        >
          <b>{person.name}</b>
          <span class="quiet">{person.away ?? person.there}</span>
        </button>
        <span class="counts">
          <span class:late={person.late > 0}>{person.late} late</span>
          <span>{person.today} today</span>
          <span>{person.stuck} stuck</span>
          <span>{person.toPlace} to place</span>
        </span>
        <a class="button plain" href="/people/{person.id}/desk" aria-label="Read as {person.name}">Read as</a>
      </li>
      {#if open === person.id}
        <li class="inside">
          <MoreRows
            query="of=today"
            label="Today, {person.name}"
            placer={null}
            read={read(person.id)}
            stamp={person}
            onask={(taskId) => void act('ask', { taskId })}
          />
        </li>
      {/if}
    {/each}
  </ul>
</section>

<style>
  .count {
    font-weight: 450;
    color: var(--ink-2);
  }
  .line {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 4px 14px;
    align-items: center;
    border-bottom: 1px solid var(--line-soft);
  }
  .open {
    display: flex;
    flex-wrap: wrap;
    gap: 0 10px;
    align-items: baseline;
    min-height: 34px;
    padding: 5px 0;
    text-align: left;
    cursor: pointer;
  }
  .open:hover b {
    text-decoration: underline;
  }
  .counts {
    display: grid;
    grid-template-columns: repeat(4, 84px);
    font-size: 13px;
  }
  .late {
    color: var(--brick);
    font-weight: 600;
  }
  .inside {
    padding: 2px 0 6px 14px;
    border-left: 3px solid var(--lit-edge);
  }
  @media (max-width: 900px) {
    .line {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .counts {
      grid-column: 1 / -1;
      grid-row: 2;
      grid-template-columns: repeat(4, auto);
      padding-bottom: 6px;
    }
    .open {
      min-height: 44px;
    }
  }
</style>
