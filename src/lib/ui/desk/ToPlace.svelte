<script lang="ts">
  import type { DeskRows } from '$lib/view/desk.ts';
  import DeskRow from './DeskRow.svelte';
  import MoreRows from './MoreRows.svelte';
  import type { Placer } from './placer.svelte.ts';

  /** What came in and is not placed yet: as a round, one after another, or as a list, many at once. */
  interface Props {
    part: DeskRows;
    placer: Placer | null;
    read: (query: string, from: number) => Promise<DeskRows | null>;
  }

  let { part, placer, read }: Props = $props();
  let chosen = $state.raw<ReadonlySet<number>>(new Set());
  let last: number | null = null;
  let all = $state(false);
  const there = $derived(part.rows.filter(({ id }) => chosen.has(id)));

  function choose(id: number, on: boolean, shift: boolean) {
    const ids = part.rows.map((row) => row.id);
    const [from, to] = [ids.indexOf(last ?? id), ids.indexOf(id)].sort((a, b) => a - b) as [number, number];
    const range = shift && last !== null && from >= 0 ? ids.slice(from, to + 1) : [id];
    const others = [...chosen].filter((one) => !range.includes(one));
    chosen = new Set(on ? [...others, ...range] : others);
    last = id;
  }
</script>

<section aria-labelledby="to-place">
  <div class="head">
    <h2 id="to-place">To place <span class="count">{part.count}</span></h2>
    {#if placer && part.count > 0}
      {#if there.length > 0}
        <span class="several" role="toolbar" aria-label="For those that are chosen">
          <span class="quiet">{there.length} chosen</span>
          <button
            class="button"
            onclick={() => void placer.place(there, { ...placer.targets.today, to: 'leave' })}
            >Leave them</button
          >
          <button class="button" onclick={() => (placer.asking = { step: 'where', tasks: there })}
            >For when…</button
          >
          <button class="button plain" onclick={() => (chosen = new Set())}>Choose none</button>
        </span>
      {:else}
        <a class="button main" href="/desk/round">Start the placing round</a>
      {/if}
    {/if}
  </div>
  {#if part.count === 0}
    <p class="quiet">Nothing new. What is given to you comes here first.</p>
  {:else}
    <ul aria-label="To place">
      {#each part.rows as task (task.id)}
        <DeskRow
          {task}
          {placer}
          chosen={placer ? chosen.has(task.id) : null}
          onchoose={(on, shift) => choose(task.id, on, shift)}
        />
      {/each}
    </ul>
    {#if part.count > part.rows.length}
      {#if all}<MoreRows query="of=to-place" label="All that is to be placed" {placer} {read} stamp={part} />
      {:else}<button class="button plain" onclick={() => (all = true)}>Show all {part.count}</button>{/if}
    {/if}
  {/if}
</section>

<style>
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 6px 12px;
    min-height: 36px;
  }
  .count {
    font-weight: 450;
    color: var(--ink-2);
  }
  .several {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }
  @media (max-width: 900px) {
    .head .button {
      min-height: 44px;
    }
  }
</style>
