<script lang="ts">
  import DeskSheet from '$lib/ui/desk/DeskSheet.svelte';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  const bells = new Later(() => data.bells);
</script>

<svelte:head><title>Desk of {data.desk.person.name} · Early Bell</title></svelte:head>

<p class="band">
  <b>Read as {data.desk.person.name}</b>
  <span
    >You see this Desk as {data.desk.person.name} does, without private tasks. You change nothing here. The Journal
    says that you read it, and so does the Desk itself.</span
  >
</p>
<div class="mt-3">
  <DeskSheet
    desk={data.desk}
    waiting={[]}
    bells={bells.value}
    bellsFailed={bells.failed}
    rowsAt="/people/{data.desk.person.id}/desk/rows"
  />
</div>
