<script lang="ts">
  import Tip from '$lib/ui/parts/Tip.svelte';
  import Segmented from '$lib/ui/parts/Segmented.svelte';
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { replaceState } from '$app/navigation';
  import { page } from '$app/state';
  import { getContext, untrack } from 'svelte';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Plus from '@lucide/svelte/icons/plus';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  const weeks = new Later(() => data.weeks);

  const STATES = ['on', 'draft', 'off', 'faulty'] as const;
  let search = $state(untrack(() => page.url.searchParams.get('text') ?? ''));
  // What rings comes first; everything is a press away.
  const usual = untrack(() => (data.rules.some(({ state }) => state === 'on') ? 'on' : 'all'));
  /** Null as long as nobody has chosen: then what is looked for is looked for in all of them. */
  let chosen = $state<string | null>(untrack(() => page.url.searchParams.get('state')));
  const inState = $derived(chosen ?? (search.trim() === '' ? usual : 'all'));
  let failing = $state(untrack(() => page.url.searchParams.get('failing') === 'yes'));

  // What is looked for stays in the address.
  $effect(() => {
    const url = new URL(page.url);
    const set = (name: string, value: string) =>
      value ? url.searchParams.set(name, value) : url.searchParams.delete(name);
    set('text', search.trim());
    set('state', chosen ?? '');
    set('failing', failing ? 'yes' : '');
    if (url.search !== untrack(() => page.url.search)) replaceState(url, {});
  });

  const shown = $derived(
    data.rules.filter(
      (rule) =>
        (inState === 'all' || rule.state === inState || (inState === 'draft' && rule.drafted)) &&
        (!failing || rule.failed > 0 || rule.state === 'faulty' || rule.faults !== null) &&
        `${rule.name} ${rule.sentence}`.toLowerCase().includes(search.trim().toLowerCase())
    )
  );
  const groups = $derived([...new Set(shown.map(({ group }) => group))]);
  const states = $derived([
    { value: 'all', label: `all ${data.rules.length}` },
    ...STATES.filter((one) => count(one) > 0).map((value) => ({ value, label: `${value} ${count(value)}` }))
  ]);
  const count = (one: string) => data.rules.filter((rule) => rule.state === one).length;
</script>

<svelte:head><title>Rules · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-center gap-3">
  <h1>Rules</h1>
  <a class="ml-auto quiet" href="/rules/shared">Reader lists and templates</a>
  <a class="button" href="/rules/starters">Starters</a>
  <form method="POST" action="?/add" use:enhance={submitDone(done)}>
    <button class="button main"><Plus size={16} strokeWidth={1.75} />New rule</button>
  </form>
</div>

{#if data.rules.length === 0}
  <p class="py-4">
    There are no rules yet. A rule says which tasks it watches, when it rings, and whom it tells. <a
      href="/rules/starters">Starters</a
    > are ready-made rules.
  </p>
{:else}
  <div class="looks" role="search">
    <input
      class="value"
      type="search"
      placeholder="Search rules"
      aria-label="Look for rules"
      bind:value={search}
    />
    <Segmented label="By state" options={states} value={inState} onchange={(state) => (chosen = state)} />
    <label><input type="checkbox" bind:checked={failing} /> Failing</label>
    <span class="quiet ml-auto">Times in {data.place} (your zone)</span>
  </div>
  {#if form && 'errors' in form}<p class="fault" role="alert">{Object.values(form.errors ?? {})[0]}</p>{/if}

  {#if weeks.failed}<LaterFault what="When each rule rings next" />{/if}
  <table class="mt-3">
    <caption class="sr">All rules in their order</caption>
    <thead
      ><tr
        ><th>Rule</th><th>State</th><th>Next bell</th><th>Next 7 days</th><th>Last bell</th><th>Sent</th><th
          ><span class="sr">Order</span></th
        ></tr
      ></thead
    >
    {#each groups as group (group)}
      {@const inside = shown.filter((rule) => rule.group === group)}
      <tbody>
        {#if groups.length > 1}<tr class="group"
            ><th colspan="7" scope="rowgroup">{group || 'No group'}</th></tr
          >{/if}
        {#each inside as rule, i (rule.id)}
          <tr>
            <td class="named"
              ><a href="/rules/{rule.id}">{rule.name}</a><span class="quiet sentence">{rule.sentence}</span
              ></td
            >
            <td
              ><RuleState state={rule.state} />{#if rule.drafted}<span class="quiet block">with a draft</span
                >{/if}{#if rule.faults}<span class="brick-text block"
                  >cannot be computed for {rule.faults.schedule ? 'its schedule' : ''}{rule.faults.schedule &&
                  rule.faults.count > 0
                    ? ' and '
                    : ''}{rule.faults.count > 0 ? `${many(rule.faults.count, 'task')}` : ''}</span
                >{/if}</td
            >
            {#if weeks.value}
              <td class="whitespace-nowrap">{weeks.value[rule.id]?.next ?? 'none planned'}</td>
              <td>{weeks.value[rule.id]?.week ?? 0}</td>
            {:else}<td class="quiet">{weeks.failed ? '' : '…'}</td><td></td>{/if}
            <td class="whitespace-nowrap">{rule.last ?? 'not yet'}</td>
            <td
              >{rule.sent}{#if rule.failed > 0}<span class="brick-text block">{rule.failed} failed</span
                >{/if}</td
            >
            <td class="order">
              <form method="POST" action="?/move" use:enhance={submitDone(done)}>
                <input type="hidden" name="rule" value={rule.id} />
                <Tip words="Ring earlier at the same time">
                  {#snippet button(attributes)}<button
                      {...attributes}
                      type="submit"
                      class="button plain"
                      name="by"
                      value="up"
                      disabled={i === 0}
                      aria-label="Move “{rule.name}” up"><ArrowUp size={14} /></button
                    >{/snippet}
                </Tip><Tip words="Ring later at the same time">
                  {#snippet button(attributes)}<button
                      {...attributes}
                      type="submit"
                      class="button plain"
                      name="by"
                      value="down"
                      disabled={i === inside.length - 1}
                      aria-label="Move “{rule.name}” down"><ArrowDown size={14} /></button
                    >{/snippet}
                </Tip>
              </form>
            </td>
          </tr>
        {/each}
      </tbody>
    {/each}
  </table>
  {#if shown.length === 0}<p class="py-4">No rule matches.</p>{/if}
{/if}

<style>
  .looks {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 14px;
    align-items: center;
    margin-top: 10px;
    font-size: 13px;
  }
  .looks input[type='search'] {
    width: 220px;
  }
  .looks input[type='checkbox'] {
    accent-color: var(--brass-deep);
  }
  .group th {
    padding-top: 14px;
    font-weight: 650;
    color: var(--ink);
  }
  .named {
    width: 46%;
  }
  /* All of it is read aloud, and stands on the page of the rule. */
  .sentence {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    overflow: hidden;
    font-size: 12.5px;
  }
  .order form {
    display: flex;
  }
</style>
