<script lang="ts">
  import { enhance } from '$app/forms';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import Part from './Part.svelte';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';
  import DateField from '../form/date/DateField.svelte';

  interface Props {
    task: TaskDetailView;
    search: string;
    errors: Record<string, string>;
    ondone: (done: Done) => void;
  }

  let { task, search, errors, ondone }: Props = $props();
  let form: HTMLFormElement | undefined = $state();
</script>

<Part title="Subtasks">
  {#if task.subtasks.length > 0}
    <table>
      <caption class="sr">Subtasks</caption>
      <tbody>
        {#each task.subtasks as row (row.id)}
          <tr>
            <td><a href="/tasks/{row.id}{search}" dir="auto">{row.name}</a></td>
            <td>{row.owner ?? 'no owner'}</td>
            <td class:brick-text={row.overdue}>{row.due ?? 'no date'}{row.left ? ` · ${row.left}` : ''}</td>
            <td>{row.status}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#if task.editable}
    <form
      bind:this={form}
      class="row"
      method="POST"
      action="/tasks/{task.id}?/subtask"
      use:enhance={submitDone((done) => {
        form?.reset();
        ondone(done);
      })}
    >
      <input class="value grow" name="name" aria-label="Name of a new subtask" placeholder="Subtask" />
      <DateField
        name="due"
        label="When the subtask is due"
        of={{ task: { owner: task.values.ownerId, project: task.values.projectId } }}
      />
      <button class="button">Add subtask</button>
    </form>
    {#if errors.name || errors['']}<p class="fault" role="alert">{errors.name ?? errors['']}</p>{/if}
  {/if}
</Part>

<style>
  td {
    font-size: 13px;
    overflow-wrap: anywhere;
  }
</style>
