<script lang="ts">
  import Round from '$lib/ui/desk/Round.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
</script>

<svelte:head><title>{data.kind === 'placing' ? 'To place' : 'Evening round'} · Early Bell</title></svelte:head
>

{#key data.kind}
  <Round kind={data.kind} ids={data.ids} today={data.frame.clock.date} personId={data.frame.person.id} />
{/key}
