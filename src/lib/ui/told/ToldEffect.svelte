<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { ToldChange, ToldEffect } from '$lib/view/told.ts';

  /** What a change would do to the next seven days, before it is saved. */
  let { effect }: { effect: ToldEffect } = $props();
  type Kind = 'moved' | 'added' | 'gone' | 'otherWay';
  const KINDS: readonly [Kind, (n: number) => string][] = [
    ['added', (n) => `${n} more`],
    ['moved', (n) => `${n} at another time`],
    ['otherWay', (n) => `${n} by another channel`],
    ['gone', (n) => `${n} no longer sent to you`]
  ];
  const shown = $derived(KINDS.filter(([kind]) => effect.counts[kind] > 0));
  const name = ({ kind, what }: ToldChange) => (kind === 'digest' ? `Digest “${what}”` : what);
</script>

{#if shown.length === 0}
  <p>Nothing changes in the next seven days.</p>
{:else}
  {#each shown as [kind, words] (kind)}
    <h3>{words(effect.counts[kind])}</h3>
    <ul>
      {#each effect[kind] as change (change.key)}
        <li>
          <span>{name(change)}</span>
          <span class="quiet"
            >{#if change.before}<s>{change.before}</s>{/if}
            {#if change.before && change.after}→{/if}
            {#if change.after}<b>{change.after}</b>{/if}</span
          >
        </li>
      {/each}
    </ul>
    {#if effect.counts[kind] > effect[kind].length}<p class="quiet">
        and {effect.counts[kind] - effect[kind].length} more
      </p>{/if}
  {/each}
  {#if effect.counts.same > 0}<p class="quiet">
      {many(effect.counts.same, 'other stays as it is', 'others stay as they are')}.
    </p>{/if}
{/if}

<style>
  h3 {
    font-size: 13px;
    margin: 8px 0 2px;
  }
  li {
    display: grid;
    border-top: 1px solid var(--line-soft);
    padding: 4px 0;
    font-size: 13px;
    overflow-wrap: anywhere;
  }
</style>
