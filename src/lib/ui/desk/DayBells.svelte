<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { bellWord } from '$lib/view/bell-words.ts';
  import type { DeskBell } from '$lib/view/desk.ts';
  import BellMark from '$lib/ui/bell/BellMark.svelte';

  /** The notices of a day, each with why it comes then. */
  let { bells, what }: { bells: readonly DeskBell[]; what: string } = $props();
  let why = $state<string | null>(null);
</script>

{#if bells.length === 0}
  <p class="quiet">No {what}.</p>
{:else}
  <ul aria-label="Its notices">
    {#each bells as bell (bell.key)}
      <li>
        <svg viewBox="-9 -9 18 18" width="18" height="18" aria-hidden="true"
          ><BellMark kind={bell.kind} /></svg
        >
        <b>{bell.time}</b>
        <span
          >{bell.about}
          <span class="quiet">{bellWord(bell.kind)}{bell.rung ? ', came' : ''} · {bell.rule}</span></span
        >
        <button
          class="why"
          aria-expanded={why === bell.key}
          aria-label="Why at {bell.time}: {bell.about}"
          onclick={() => (why = why === bell.key ? null : bell.key)}>Why?</button
        >
        {#if why === bell.key}
          <ol class="steps">
            {#each bell.why as step, i (i)}<li>{step}</li>{/each}
          </ol>
        {/if}
      </li>
    {/each}
  </ul>
  <p class="sr">{many(bells.length, 'notice')}</p>
{/if}

<style>
  li {
    display: grid;
    grid-template-columns: 22px 48px minmax(0, 1fr) auto;
    align-items: center;
    gap: 4px;
    padding: 2px 0;
    font-size: 13px;
  }
  .why {
    min-height: 24px;
    color: var(--brass-ink);
    cursor: pointer;
  }
  .steps {
    grid-column: 1 / -1;
    padding-left: 30px;
    list-style: decimal;
    color: var(--ink-2);
  }
  .steps li {
    display: list-item;
  }
</style>
