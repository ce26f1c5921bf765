<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import type { RuleReasonView } from '$lib/view/task-detail.ts';

  /** Every rule that is on: whether it rings for this task, and why or why not. */
  let { rules }: { rules: readonly RuleReasonView[] } = $props();
  /** The reasons are many: they are drawn once they are asked for. */
  let opened = $state(false);
  const may = getContext<(deed: Deed) => boolean>('may');
  const applying = $derived(rules.filter(({ applies }) => applies));
  const others = $derived(rules.filter(({ applies }) => !applies));
</script>

<details class="rules" bind:open={opened}>
  <summary
    >{many(applying.length, 'rule rings', 'rules ring')}{others.length > 0
      ? `, ${many(others.length, 'does', 'do')} not`
      : ''} · Why?</summary
  >
  {#if opened}<dl>
      {#each [...applying, ...others] as rule (rule.id)}
        <dt class:slate-text={!rule.applies}>
          {#if may('make rules')}<a href="/rules/{rule.id}">{rule.name}</a>{:else}{rule.name}{/if}
          <span class="quiet">{rule.applies ? 'rings' : 'does not ring'}</span>
        </dt>
        {#each rule.reasons as reason (reason)}<dd>{reason}</dd>{/each}
      {/each}
    </dl>{/if}
</details>

<style>
  .rules {
    margin-top: 10px;
    font-size: 13px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
  }
  dt {
    margin-top: 6px;
    font-weight: 550;
  }
  dd {
    padding-left: 14px;
    color: var(--ink-2);
  }
</style>
