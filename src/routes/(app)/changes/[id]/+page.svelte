<script lang="ts">
  import { errorSentence } from '$lib/core/errors.ts';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import type { ActionData, PageData } from './$types';
  import ChangeSheet from './ChangeSheet.svelte';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const later = new Later(
    async () => ({ change: await data.later }),
    () => data.id
  );
  const change = $derived(data.change ?? later.value?.change);
</script>

<svelte:head><title>{change?.title ?? 'A change'} · Early Bell</title></svelte:head>

{#if data.readsJournal}<p class="quiet"><a href="/journal">Journal</a></p>{/if}
{#if change}<ChangeSheet {change} {form} readsJournal={data.readsJournal} />
{:else if later.failed}<LaterFault what="What was changed" />
{:else if later.value}<p class="fault" role="alert">{errorSentence('change-gone')}</p>
{:else}
  <h1>A large change</h1>
  <p class="quiet waits" aria-live="polite">Computing what it changed…</p>
{/if}
