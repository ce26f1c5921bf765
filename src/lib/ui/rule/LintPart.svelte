<script lang="ts">
  import type { Lint, LintCode, Mend } from '$lib/core/lint/model.ts';

  /** What is doubtful about a rule, each with what takes it away by one press. */
  interface Props {
    lints: readonly Lint[];
    onmend: (mend: Mend) => void;
  }

  let { lints, onmend }: Props = $props();

  const TITLES: Record<LintCode, string> = {
    'exact day on a schedule with gaps': 'Days lost',
    'late bells': 'Late bell',
    rush: 'Too many',
    loop: 'Loop',
    'follow-ups of follow-ups': 'Follow-ups of follow-ups',
    'check rarer than its window': 'Missed between checks',
    'finds the same task again': 'Repeated',
    'lead longer than the rhythm': 'Longer than the interval',
    'words against the lead': 'Wrong text',
    'one status of several': 'Not covered',
    'nothing after the due day': 'Nothing after the date',
    'told twice': 'Told twice',
    'double channels': 'By two channels',
    'channel missing': 'Channel missing',
    'set by two rules': 'Set by two rules'
  };
</script>

{#each lints as lint, i (i)}
  <div class="band" class:brick={lint.code === 'late bells' || lint.code === 'loop'}>
    <b>{TITLES[lint.code]}</b>
    <span>
      {lint.message}
      {#if lint.mend}{@const mend = lint.mend}<button type="button" class="mend" onclick={() => onmend(mend)}
          >{mend.words[0]!.toUpperCase() + mend.words.slice(1)}</button
        >{/if}
    </span>
  </div>
{/each}

<style>
  .mend {
    color: var(--brass-deep);
    text-decoration: underline;
    text-underline-offset: 3px;
    font-weight: 550;
  }
</style>
