<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Plus from '@lucide/svelte/icons/plus';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<svelte:head><title>Rules · Early Bell</title></svelte:head>

<div class="flex items-baseline gap-3">
  <h1>Rules</h1>
  <a class="ml-auto quiet" href="/rules/shared">Reader lists and templates</a>
  <form method="POST" action="?/add" use:enhance={submitDone(done)}>
    <button class="button main"><Plus size={16} strokeWidth={1.75} />Make a rule</button>
  </form>
</div>

<p class="quiet">times as on your wall in {data.place}</p>

{#if data.rules.length === 0}
  <p class="py-4">
    There are no rules yet. A rule says which tasks it watches, when it rings, and whom it tells.
  </p>
{:else}
  <table class="mt-3">
    <caption class="sr">All rules in their order</caption>
    <thead
      ><tr
        ><th>Rule</th><th>State</th><th>Watches</th><th>Next bell</th><th>Next 7 days</th><th>Last bell</th
        ><th>Sent</th></tr
      ></thead
    >
    <tbody>
      {#each data.rules as rule (rule.id)}
        <tr>
          <td><a href="/rules/{rule.id}">{rule.name}</a></td>
          <td
            ><RuleState state={rule.state} />{#if rule.drafted}<span class="quiet block"
                >a draft beside it</span
              >{/if}</td
          >
          <td class="max-w-[300px]">{rule.watch}</td>
          <td>{rule.next ?? 'none planned'}</td>
          <td>{rule.week}</td>
          <td>{rule.last ?? 'not yet'}</td>
          <td
            >{rule.sent}{#if rule.failed > 0}<span class="brick-text block">{rule.failed} failed</span
              >{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
