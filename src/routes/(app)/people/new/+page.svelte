<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import PersonForm from '$lib/ui/person/PersonForm.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const failed = $derived(form && 'errors' in form ? form : null);
  const blank = $derived({
    name: '',
    email: '',
    phone: '',
    zone: data.zone,
    calendarId: data.calendarId,
    managerId: null,
    role: 'owner',
    groups: ''
  });
</script>

<svelte:head><title>Add a person · Early Bell</title></svelte:head>

<p class="quiet"><a href="/people">People</a></p>
<h1>Add a person</h1>
<form method="POST" use:enhance={submitDone(done)} class="mt-3 grid max-w-[520px] gap-4">
  <PersonForm
    values={failed?.values ?? blank}
    choices={data.choices}
    errors={failed?.errors ?? {}}
    mayGiveAccess={data.mayGiveAccess}
  />
  <p class="flex gap-2">
    <button class="button main">Add the person</button><a class="button" href="/people">Cancel</a>
  </p>
</form>
