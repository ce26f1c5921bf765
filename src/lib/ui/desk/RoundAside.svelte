<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import BellMark from '$lib/ui/bell/BellMark.svelte';
  import { bellWord } from '$lib/view/bell-words.ts';
  import type { RoundSheet } from '$lib/view/desk.ts';

  /** Beside a round: the notices that come for the task, and what was decided so far. */
  interface Props {
    /** Null while it is read, and when the round is over. */
    sheet: RoundSheet | null;
    decided: readonly { id: number; words: string }[];
  }

  let { sheet, decided }: Props = $props();
  /** So many decisions stand there. */
  const SHOWN = 12;
</script>

<aside>
  {#if sheet}
    <section aria-labelledby="its-notices">
      <h2 id="its-notices">Its notices <span class="count">{sheet.notices}</span></h2>
      {#if sheet.notices === 0}<p class="quiet">No rule tells anybody about it.</p>{/if}
      <ul>
        {#each sheet.bells as bell (bell.key)}
          <li class="bell">
            <svg viewBox="-9 -9 18 18" width="18" height="18" aria-hidden="true"
              ><BellMark kind={bell.kind} /></svg
            >
            <span
              ><b>{bell.at}</b>{#if bell.to}{` to ${bell.to}`}{/if}<span class="quiet block"
                >{bellWord(bell.kind)} · {bell.rule}</span
              ></span
            >
          </li>
        {/each}
      </ul>
      {#if sheet.notices > sheet.bells.length}<p class="quiet">
          and {many(sheet.notices - sheet.bells.length, 'more notice')} of the same, if it stays open
        </p>{/if}
    </section>
  {/if}
  {#if decided.length > 0}
    <section aria-labelledby="this-round">
      <h2 id="this-round">This round</h2>
      <ul>
        {#each decided.toReversed().slice(0, SHOWN) as one (one.id)}<li class="past">{one.words}</li>{/each}
      </ul>
    </section>
  {/if}
</aside>

<style>
  aside {
    display: grid;
    gap: 18px;
    align-content: start;
  }
  .bell {
    display: grid;
    grid-template-columns: 24px minmax(0, 1fr);
    padding: 5px 0;
    border-bottom: 1px solid var(--line-soft);
  }
  .past {
    padding: 5px 0;
    border-bottom: 1px solid var(--line-soft);
    font-size: 13px;
    color: var(--sea);
  }
  .count {
    font-weight: 450;
    color: var(--ink-2);
  }
</style>
