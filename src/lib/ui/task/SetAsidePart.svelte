<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';
  import DateField from '../form/date/DateField.svelte';

  /** Out of the list: parked, archived or deleted; and back. */
  interface Props {
    task: TaskDetailView;
    errors: Record<string, string>;
    ondone: (done: Done) => void;
  }

  let { task, errors, ondone }: Props = $props();
  const action = (name: string) => `/tasks/${task.id}?/${name}`;
</script>

{#if task.row.setAside}
  {#if task.mayRestore}
    <form class="part row" method="POST" action={action('restore')} use:enhance={submitDone(ondone)}>
      <button class="button">Return to the list</button>
      {#if task.row.setAside === 'parked'}
        <span class="quiet">It also returns to the list when you set an owner.</span>
      {/if}
    </form>
  {/if}
{:else if task.editable}
  <section class="part" aria-label="Out of the list">
    <form class="row" method="POST" action={action('park')} use:enhance={submitDone(ondone)}>
      <button class="button">Park the task</button>
      <label class="quiet"
        >No owner until it returns to you on
        <DateField name="reviewDate" label="Returns on" /></label
      >
    </form>
    {#if errors.reviewDate || errors['']}<p class="fault" role="alert">
        {errors.reviewDate ?? errors['']}
      </p>{/if}
    <div class="row">
      <form method="POST" action={action('archive')} use:enhance={submitDone(ondone)}>
        <button class="button">Archive it</button>
      </form>
      <form method="POST" action={action('bin')} use:enhance={submitDone(ondone)}>
        <button class="button">Move to the bin</button>
      </form>
      <span class="quiet">Tasks stay in the bin for 30 days.</span>
    </div>
  </section>
{/if}

<style>
  .part {
    border-top: 1px solid var(--line);
    padding: 12px 0 14px;
    display: grid;
    gap: 8px;
    justify-items: start;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
</style>
