<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import TaskForm from '$lib/ui/task/TaskForm.svelte';
  import { blankTask, type TaskFormView } from '$lib/view/tasks.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  let draft: TaskFormView = $state(blankTask());
  const failed = $derived(form && 'errors' in form ? form : null);
</script>

<svelte:head><title>Add a task · Early Bell</title></svelte:head>

<h1>Add a task</h1>
<form method="POST" use:enhance={submitDone(done)} class="mt-3 grid max-w-[760px] gap-4">
  <input type="hidden" name="task" value={JSON.stringify(draft)} />
  <TaskForm bind:draft choices={data.choices} errors={failed?.errors ?? {}} />
  <p class="flex gap-2">
    <button class="button main">Add the task</button><a class="button" href="/tasks">Cancel</a>
  </p>
</form>
