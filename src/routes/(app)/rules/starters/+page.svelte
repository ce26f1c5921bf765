<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import { STARTER_USES, type StarterUse } from '$lib/core/rule/starters/use.ts';
  import Turn from '$lib/ui/table/Turn.svelte';
  import type { StarterView, StarterWeek } from '$lib/view/rules.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  const weeks = new Later(() => data.weeks);
  const weekOf = (key: string) => weeks.value?.find((one) => one.key === key) ?? null;

  /** The starter whose rule is read out. */
  let opened = $state<string | null>(null);

  const USE_WORDS: Record<StarterUse, string> = {
    'before the date': 'Before the date',
    'on the day': 'On the day',
    late: 'Late',
    'new and finished': 'New and finished',
    'regular and tidying': 'Regular lists and tidying',
    'by hand': 'By hand'
  };
  const uses = $derived(
    STARTER_USES.map((use) => ({ use, of: data.starters.filter((one) => one.use === use) })).filter(
      ({ of }) => of.length > 0
    )
  );

  /** What it would come to in a week. */
  function comesTo({ waits }: StarterView, { week, acts }: StarterWeek): string {
    if (waits) return 'depends on events';
    const changes = acts > 0 ? `changes ${many(acts, 'thing')}` : '';
    const rings = week > 0 || acts === 0 ? `rings ${many(week, 'time')}` : '';
    return [rings, changes].filter(Boolean).join(', ');
  }
</script>

<svelte:head><title>Starters · Early Bell</title></svelte:head>

<p class="quiet"><a href="/rules">Rules</a></p>
<h1>Starters</h1>
<p class="quiet">Ready-made rules. “Use this” makes a draft. It does not ring until you turn it on.</p>
{#if form && 'errors' in form}<p class="fault" role="alert">{Object.values(form.errors ?? {})[0]}</p>{/if}

{#if weeks.failed}<LaterFault what="What each starter would do here" />
{:else if !weeks.value}<p class="quiet mt-3" aria-live="polite">Computing what each would do here…</p>{/if}
<div aria-busy={!weeks.value}>
  {#each uses as { use, of } (use)}
    <section aria-label={USE_WORDS[use]}>
      <h2>{USE_WORDS[use]}</h2>
      <ul>
        {#each of as starter (starter.key)}
          {@const week = weekOf(starter.key)}
          <li>
            <div class="about">
              <Turn
                open={opened === starter.key}
                controls="says-{starter.key}"
                onpress={() => (opened = opened === starter.key ? null : starter.key)}
                >{starter.name}<span class="sr">, its rule</span></Turn
              >
              <p class="quiet">{starter.purpose}</p>
              <p class="quiet" id="says-{starter.key}" hidden={opened !== starter.key}>{starter.sentence}.</p>
              {#if starter.taken}<p class="quiet">A rule with this name exists.</p>{/if}
            </div>
            <p class="week">
              {#if week}{comesTo(starter, week)}<span class="quiet block"
                  >this week, {many(week.watched, 'task')} watched</span
                >{:else if !weeks.failed}<span class="quiet">computing…</span>{/if}
            </p>
            <form method="POST" action="?/take" use:enhance={submitDone(done)}>
              <input type="hidden" name="key" value={starter.key} />
              <button class="button" aria-label="Use this: {starter.name}">Use this</button>
            </form>
          </li>
        {/each}
      </ul>
    </section>
  {/each}
</div>

<style>
  div[aria-busy] {
    columns: 2 420px;
    column-gap: 36px;
    margin-top: 14px;
  }
  section {
    break-inside: avoid;
    margin-bottom: 22px;
  }
  h2 {
    border-bottom: 1px solid var(--line);
    padding-bottom: 4px;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 128px auto;
    gap: 4px 12px;
    align-items: start;
    padding: 8px 0;
    border-bottom: 1px solid var(--line-soft);
    break-inside: avoid;
  }
  .week {
    font-size: 13px;
  }
  .block {
    display: block;
  }
  @media (max-width: 640px) {
    li {
      grid-template-columns: minmax(0, 1fr) auto;
    }
    .about {
      grid-column: 1 / -1;
    }
  }
</style>
