<script lang="ts">
  import { agree, many } from '$lib/core/many.ts';
  import BellStrip from '$lib/ui/bell/BellStrip.svelte';
  import EarshotList from '$lib/ui/bell/EarshotList.svelte';
  import BellTable from '$lib/ui/bell/BellTable.svelte';
  import type { Mend } from '$lib/core/lint/model.ts';
  import LintPart from './LintPart.svelte';
  import type { RuleForecastView } from '$lib/view/models.ts';

  interface Props {
    forecast: RuleForecastView;
    onmend: (mend: Mend) => void;
    /** A newer one is being computed. */
    pending: boolean;
    /** Whether the latest of the past ring times is sent when the rule is turned on. */
    sendsLatest: boolean;
  }

  let { forecast, onmend, pending, sendsLatest }: Props = $props();
  let opened = $state<string | null>(null);
  const { counts } = $derived(forecast);
  /** Without these it would be foretold for too many tasks; of any other part only that part is missing. */
  const WHOLE = { watch: 'The Watch', stop: 'When it ends' } as const;
  const unfinished = $derived(
    (['watch', 'stop'] as const)
      .filter((part) => forecast.faults.some((fault) => fault.part === part))
      .map((part) => WHOLE[part])
  );

  let rest: HTMLParagraphElement | undefined = $state();

  /** @param key null for a bell that the list does not reach: its end says how many there are */
  function openBell(key: string | null) {
    opened = key;
    requestAnimationFrame(() =>
      (key === null ? rest : document.getElementById(`bell-${key}`))?.scrollIntoView({ block: 'center' })
    );
  }
</script>

<section aria-labelledby="forecast" aria-busy={pending}>
  <p class="head">
    <span class="quiet" id="forecast">four weeks, to {forecast.until}</span>
    <span class="quiet numbers" aria-live="polite">
      {many(counts.bells, 'bell')}, {many(counts.people, 'person', 'people')}{counts.held > 0
        ? `, ${counts.held} held`
        : ''}{counts.unrung > 0 ? `, ${counts.unrung} not sent` : ''}
    </span>
  </p>
  <div class="sheet strip" class:pending>
    <BellStrip strip={forecast.strip} label="Notices of this rule in the next four weeks" onopen={openBell} />
    {#if forecast.peopleBelow > 0}<p class="quiet">
        and {many(forecast.peopleBelow, 'person', 'people')} more, who {agree(
          forecast.peopleBelow,
          'has',
          'have'
        )} no row here
      </p>{/if}
  </div>

  {#each unfinished as part (part)}
    <p class="band brick"><b>{part} is not finished</b><span>There is no forecast until it is.</span></p>
  {/each}
  <LintPart lints={forecast.lints} {onmend} />
  {#if forecast.outOfEarshot.length > 0}
    <div class="band">
      <b>Out of earshot</b>
      <EarshotList groups={forecast.outOfEarshot} one="watched task" many="watched tasks" />
    </div>
  {/if}
  {#if counts.past > 0}
    <p class="band">
      <b>Past</b><span
        >{many(counts.past, 'ring time is', 'ring times are')} past. {sendsLatest
          ? 'When the rule is turned on, only the latest per task is sent.'
          : 'Nothing is sent for past ring times.'}</span
      >
    </p>
  {/if}
  {#each forecast.broken as fault (fault.message)}
    <p class="band brick">
      <b>Cannot be computed</b><span
        >{#if fault.count > 0}{many(fault.count, 'task')}: {#each fault.tasks as task, i (task.id)}{i > 0
              ? ', '
              : ''}<a href="/tasks/{task.id}">{task.name}</a>{/each}{fault.count > fault.tasks.length
            ? ` and ${fault.count - fault.tasks.length} more`
            : ''}.
        {/if}{fault.message} No notice is certain there.</span
      >
    </p>
  {/each}

  {#if forecast.bells.length > 0}
    <BellTable
      bells={forecast.bells}
      caption="Every notice of this rule in the next four weeks"
      showRule={false}
      bind:opened
    />
    {#if forecast.more > 0}<p class="quiet" bind:this={rest}>and {forecast.more} more.</p>{/if}
  {/if}
</section>

<style>
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
    align-content: start;
    min-width: 0;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 4px 12px;
  }
  .numbers {
    margin-left: auto;
  }
  .strip {
    padding: 10px 12px;
    transition: opacity 0.15s;
  }
  .pending {
    opacity: 0.6;
  }
</style>
