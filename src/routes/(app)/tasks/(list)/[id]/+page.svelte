<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { page } from '$app/state';
  import { getContext } from 'svelte';
  import type { Done } from '$lib/ui/form/submit.ts';
  import TaskPanel from '$lib/ui/task/TaskPanel.svelte';
  import type { EffectView } from '$lib/view/effects.ts';
  import type { LostFieldView } from '$lib/view/task-detail.ts';
  import type { TaskFormView } from '$lib/view/tasks.ts';
  import { askEffect, type EffectAnswer } from '../../../ask-effect.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  const answer = $derived(
    form as {
      part?: string;
      errors?: Record<string, string>;
      lost?: LostFieldView[];
      values?: { part?: string };
    } | null
  );

  function ask(
    changed: Partial<TaskFormView>,
    answered: (answer: { moved: EffectView } | { error: string }) => void
  ) {
    return askEffect(`/tasks/${data.task.id}/effect`, changed, (found: EffectAnswer) => answered(found));
  }
</script>

<svelte:head><title>{data.task.row.name} · Early Bell</title></svelte:head>

<section class="panel" aria-label="The task">
  <a class="close button plain no-print" href="/tasks{page.url.search}" aria-label="Close the task"
    ><X size={16} /></a
  >
  {#key data.task.id}
    <TaskPanel
      task={data.task}
      choices={data.choices}
      part={answer?.part ?? answer?.values?.part ?? null}
      errors={answer?.errors ?? {}}
      lost={answer?.lost ?? []}
      search={page.url.search}
      {ask}
      ondone={done}
    />
  {/key}
</section>

<style>
  .panel {
    position: sticky;
    top: 8px;
    max-height: calc(100vh - 16px);
    overflow-y: auto;
    border-left: 1px solid var(--line);
    padding: 0 4px 30px 22px;
    min-width: 0;
  }
  .close {
    position: absolute;
    right: 0;
    top: 0;
    z-index: 2;
  }
  @media (max-width: 1000px) {
    .panel {
      position: static;
      max-height: none;
      border-left: none;
      padding-left: 0;
    }
  }
  @media print {
    .panel {
      position: static;
      max-height: none;
    }
  }
</style>
