<script lang="ts">
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import { many } from '$lib/core/many.ts';
  import Turn from '$lib/ui/table/Turn.svelte';
  import type { RuleReasonView } from '$lib/view/task-detail.ts';

  /** Every rule that is on, in one line: those that cover the project, and folded those that do not. */
  let { rules }: { rules: readonly RuleReasonView[] } = $props();
  const may = getContext<(deed: Deed) => boolean>('may');
  const covering = $derived(rules.filter(({ applies }) => applies));
  const others = $derived(rules.filter(({ applies }) => !applies));
  let opened = $state<number | null>(null);
  let showOthers = $state(false);
</script>

<section aria-labelledby="its-rules">
  <h2 id="its-rules">Its rules</h2>
  {#if covering.length === 0}<p class="quiet">No rule that is on covers it.</p>{/if}
  {@render lines(covering)}
  {#if others.length > 0}
    <div class="others">
      <Turn open={showOthers} controls="rules-besides" onpress={() => (showOthers = !showOthers)}
        >{many(others.length, 'rule does', 'rules do')} not cover it</Turn
      >
    </div>
    <div id="rules-besides" hidden={!showOthers}>{@render lines(others)}</div>
  {/if}
</section>

{#snippet lines(of: readonly RuleReasonView[])}
  <ul>
    {#each of as rule (rule.id)}
      <li>
        <div class="line">
          <Turn
            open={opened === rule.id}
            controls="reasons-{rule.id}"
            onpress={() => (opened = opened === rule.id ? null : rule.id)}>{rule.name}</Turn
          >
          {#if may('make rules')}<a class="quiet" href="/rules/{rule.id}"
              >Open<span class="sr"> {rule.name}</span></a
            >{/if}
        </div>
        <div id="reasons-{rule.id}" class="reasons" hidden={opened !== rule.id}>
          {#each rule.reasons as reason (reason)}<p>{reason}</p>{/each}
        </div>
      </li>
    {/each}
  </ul>
{/snippet}

<style>
  section li {
    display: block !important;
  }
  .line {
    display: flex;
    gap: 10px;
    justify-content: space-between;
  }
  .others {
    margin-top: 8px;
    color: var(--ink-2);
  }
  .reasons {
    padding: 2px 0 6px 16px;
    color: var(--ink-2);
    font-size: 13px;
  }
</style>
