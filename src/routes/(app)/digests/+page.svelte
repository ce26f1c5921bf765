<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Plus from '@lucide/svelte/icons/plus';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import RuleState from '$lib/ui/rule/RuleState.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const done = getContext<(done: Done) => void>('done');
</script>

<svelte:head><title>Digests · Early Bell</title></svelte:head>

<div class="flex flex-wrap items-center gap-3">
  <h1>Digests</h1>
  <span class="quiet ml-auto">Times in {data.place} (your zone)</span>
  <form method="POST" action="?/add" use:enhance={submitDone(done)}>
    <button class="button main"><Plus size={16} strokeWidth={1.75} />New digest</button>
  </form>
</div>
<p class="quiet lead">
  One message per person about all their tasks. It includes notices that rules kept for them.
</p>

{#if data.digests.length === 0}
  <p class="py-4">No digests yet. Add one to send each person their day, or a manager the overview.</p>
{:else}
  <table class="mt-3">
    <caption class="sr">All digests in their order</caption>
    <thead
      ><tr
        ><th>Digest</th><th>State</th><th>When</th><th>To</th><th>About</th><th>Next</th><th>Last sent</th
        ></tr
      ></thead
    >
    <tbody>
      {#each data.digests as digest (digest.id)}
        <tr>
          <td><a href="/digests/{digest.id}">{digest.name}</a></td>
          <td><RuleState state={digest.state} /></td>
          <td class="max-w-[230px]">{digest.when}</td>
          <td class="max-w-[200px]"
            >{digest.to}
            <span class="quiet block">{many(digest.readers, 'person', 'people')}</span></td
          >
          <td class="max-w-[180px]">{digest.about}</td>
          <td class="whitespace-nowrap"
            >{#if digest.next}{digest.next}<span class="quiet block"
                >to {digest.nextReaders} at that moment</span
              >{:else}none planned{/if}</td
          >
          <td class="whitespace-nowrap">{digest.last ?? 'not yet'}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}

<style>
  .lead {
    margin-top: 6px;
    max-width: 720px;
  }
</style>
