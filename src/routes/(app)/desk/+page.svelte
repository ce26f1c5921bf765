<script lang="ts">
  import DeskSheet from '$lib/ui/desk/DeskSheet.svelte';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const bells = new Later(() => data.bells);
  const ladders = new Later(() => data.ladders);
  const people = new Later(() => Promise.resolve(data.people));
  const waiting = $derived([...data.waiting, ...(ladders.value ?? [])]);
</script>

<svelte:head><title>Desk · Early Bell</title></svelte:head>

{#if bells.failed}<LaterFault what="The notices of your days" />{/if}
{#if ladders.failed}<LaterFault what="What is to be acknowledged" />{/if}
{#if people.failed}<LaterFault what="How your people stand" />{/if}
<DeskSheet
  desk={data.desk}
  {waiting}
  bells={bells.value}
  bellsFailed={bells.failed}
  people={people.value}
  things={data.things}
  rowsAt="/desk/rows"
/>
