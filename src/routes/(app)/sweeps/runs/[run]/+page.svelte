<script lang="ts">
  import Progress from '$lib/ui/parts/Progress.svelte';
  import { many } from '$lib/core/many.ts';
  import { invalidate } from '$app/navigation';
  import { page } from '$app/state';
  import { getContext } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import type { Send } from '$lib/ui/form/send.ts';
  import type { EffectView } from '$lib/view/effects.ts';
  import { withParameter } from '$lib/ui/record/address.ts';
  import SweepTasks from '$lib/ui/sweep/SweepTasks.svelte';
  import type { SweepShow } from '$lib/view/sweeps.ts';
  import RunActs from './RunActs.svelte';
  import RunStages from './RunStages.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const send = getContext<Send>('send');

  const run = $derived(data.run);
  const fault = $derived(form && 'errors' in form ? Object.values(form.errors ?? {})[0] : undefined);
  const busy = $derived(run.state === 'looking' || run.state === 'running' || run.state === 'undoing');

  // Under way, it is read again until it has come to its end.
  $effect(() => {
    if (!busy) return;
    const timer = setInterval(() => void invalidate('early-bell:sweep-run'), 600);
    return () => clearInterval(timer);
  });

  /** What running it would do, once somebody has asked; asked anew when the list is another. */
  let looked = $state<{ count: number; effect: EffectView } | null>(null);
  let looking = $state(false);
  let part = $state<number | null>(null);
  async function look() {
    const { count } = run;
    looking = true;
    part = null;
    const answer = await send<EffectView>(`/sweeps/runs/${run.id}/effect`, {}, (come) => (part = come));
    looking = false;
    if (!('failed' in answer)) looked = { count, effect: answer };
  }

  async function tick(ids: number[], ticked: boolean) {
    await send(`/sweeps/runs/${run.id}/tick`, { ids, ticked });
    await invalidate('early-bell:sweep-run');
  }

  const tasks = (count: number) => `${many(count, 'task')}`;
  const shows = $derived.by(() => {
    const of = (state: string) =>
      run.reasons.reduce((sum, one) => sum + (one.state === state ? one.count : 0), 0);
    return [
      { show: 'list', label: 'on the list', count: run.count + run.unticked },
      { show: 'protected', label: 'protected', count: of('protected') },
      { show: 'left', label: 'skipped', count: of('left') + run.unticked },
      { show: 'kept', label: 'edited later, not undone', count: run.kept }
    ].filter(({ show, count }) => show === 'list' || count > 0) as {
      show: SweepShow;
      label: string;
      count: number;
    }[];
  });
</script>

<svelte:head><title>{run.sweep}, {run.at} · Sweeps · Early Bell</title></svelte:head>

<p class="quiet">
  <a href="/sweeps">Sweeps</a> · {#if run.sweepId}<a href="/sweeps/{run.sweepId}">{run.sweep}</a
    >{:else}{run.sweep}, removed{/if}
</p>
<div class="top">
  <h1>{run.sweep}, {run.at}</h1>
  <span class="quiet">{run.standing}</span>
  <RunActs {run} />
</div>
<p class="quiet sentence">{run.sentence}</p>
{#if fault}<p class="fault" role="alert">{fault}</p>{/if}

{#if busy}
  <p class="under-way" role="status">
    {#if run.state === 'looking'}Making the list: {tasks(run.looked)} checked.
    {:else if run.state === 'running'}{tasks(run.done)} of {run.done + run.count + run.left} done.
    {:else}Undoing, newest first.{/if}
    <Progress
      label="Progress"
      part={run.state === 'running'
        ? (run.done + run.left) / Math.max(1, run.done + run.left + run.count)
        : null}
    />
  </p>
{:else if run.state === 'ready'}
  <p class="band sea">
    <b>{tasks(run.count)} would be {run.verb}</b>
    <span
      >{#if run.count === 0}Nothing to do.{:else}{#if run.waits}It needs approval{run.planned
            ? `: ${run.reason}`
            : ''}.{:else}It runs {run.at} unless somebody cancels it.{/if}
        Tasks changed before then are skipped.{/if}</span
    >
    {#if run.count > 0}<button class="button" disabled={looking} onclick={look}>Preview</button>{/if}
  </p>
  {#if looking}<Looking {part} />{:else if looked?.count === run.count}
    <section class="sheet look" aria-label="Effect of running it now">
      <Effect effect={looked.effect} />
    </section>
  {/if}
{:else if run.reason}
  <p class="band"><b>{run.standing}</b><span>{run.reason}</span></p>
{/if}

<RunStages {run} />

<nav class="shows" aria-label="Filter">
  {#each shows as { show, label, count } (show)}
    <a
      href={withParameter(new URL(page.url.pathname, page.url), 'show', show === 'list' ? '' : show)}
      aria-current={run.show === show ? 'page' : undefined}>{count} {label}</a
    >
  {/each}
</nav>
{#if run.tasks.length === 0}
  <p class="quiet">No tasks.</p>
{:else}
  <SweepTasks
    tasks={run.tasks}
    ontick={run.state === 'ready' && run.show === 'list'
      ? (ids, ticked) => void tick(ids, ticked)
      : undefined}
  />
  {#if run.next !== null}<p class="more">
      <a class="button" href={withParameter(page.url, 'after', String(run.next))}>More</a>
    </p>{/if}
{/if}

<style>
  .look {
    padding: 12px 14px;
    margin: 8px 0;
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 10px;
  }
  .sentence {
    margin: 6px 0 12px;
    max-width: 860px;
  }
  .under-way {
    display: flex;
    gap: 12px;
    align-items: center;
  }
  .shows {
    display: flex;
    gap: 18px;
    margin: 14px 0 6px;
  }
  .shows a {
    color: var(--ink-2);
    text-decoration: none;
    padding-bottom: 3px;
  }
  .shows a:hover {
    color: var(--ink);
  }
  .shows a[aria-current='page'] {
    color: var(--ink);
    font-weight: 600;
    border-bottom: 2px solid var(--brass);
  }
  .more {
    margin-top: 10px;
  }
</style>
