<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { StarterView } from '$lib/view/rules.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  const starters = new Later(() => data.starters);

  /** What it would come to in a week. */
  function comesTo({ week, acts, waits }: StarterView): string {
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

{#if starters.failed}<LaterFault what="What each starter would do here" />
{:else if !starters.value}<p class="quiet mt-3" aria-live="polite">Computing what each would do here…</p>{/if}
<table class="mt-3" aria-busy={!starters.value}>
  <caption class="sr">Starters, with what each would do here in the next seven days</caption>
  <thead
    ><tr
      ><th>Starter</th><th>Rule</th><th>Watches</th><th>This week it would</th><th
        ><span class="sr">Use it</span></th
      ></tr
    ></thead
  >
  <tbody>
    {#each starters.value ?? [] as starter (starter.key)}
      <tr>
        <td class="name"><b>{starter.name}</b><span class="quiet block">{starter.purpose}</span></td>
        <td class="says">{starter.sentence}</td>
        <td class="num">{starter.watched} tasks</td>
        <td
          >{comesTo(starter)}{#if starter.taken}<span class="quiet block">a rule with this name exists</span
            >{/if}</td
        >
        <td>
          <form method="POST" action="?/take" use:enhance={submitDone(done)}>
            <input type="hidden" name="key" value={starter.key} />
            <button class="button" aria-label="Use “{starter.name}”">Use this</button>
          </form>
        </td>
      </tr>
    {/each}
  </tbody>
</table>

<style>
  .name {
    max-width: 270px;
  }
  .says {
    max-width: 430px;
    color: var(--ink-2);
    font-size: 13px;
  }
  .num {
    white-space: nowrap;
  }
</style>
