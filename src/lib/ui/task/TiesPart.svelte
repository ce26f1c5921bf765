<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import type { Deed } from '$lib/core/access/deeds.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { TaskDetailView } from '$lib/view/task-detail.ts';
  import type { TaskChoices } from '$lib/view/tasks.ts';
  import Part from './Part.svelte';
  import TakeBack from './TakeBack.svelte';

  /** What the task is connected with: other tasks, other projects, people outside. */
  interface Props {
    task: TaskDetailView;
    choices: TaskChoices;
    search: string;
    errors: Record<string, string>;
    ondone: (done: Done) => void;
  }

  let { task, choices, search, errors, ondone }: Props = $props();
  let form: HTMLFormElement | undefined = $state();
  const may = getContext<(deed: Deed) => boolean>('may');
  const fault = $derived(errors.to ?? errors[''] ?? null);
</script>

<Part title="Connections" label="Connections">
  {#if task.links.length === 0 && task.contactIds.length === 0}<span class="quiet">nothing yet</span>{/if}
  <ul>
    {#each task.links as link (link.id)}
      <li>
        <span class="quiet">{link.kind}</span>
        <a href={link.kind === 'task' ? `/tasks/${link.to}${search}` : `/projects/${link.to}`}>{link.name}</a>
        {#if task.editable}<TakeBack
            action="/tasks/{task.id}?/disconnect"
            name="link"
            id={link.id}
            label="Disconnect {link.name}"
            {ondone}
          />{/if}
      </li>
    {/each}
    {#each task.contacts.filter(({ id }) => task.contactIds.includes(id)) as { id, name } (id)}
      <li><span class="quiet">outside</span> {name}</li>
    {/each}
  </ul>
  {#if task.editable}
    <details>
      <summary class="quiet">Add a connection</summary>
      <form
        bind:this={form}
        class="row"
        method="POST"
        action="/tasks/{task.id}?/connect"
        use:enhance={submitDone((done) => {
          form?.reset();
          ondone(done);
        })}
      >
        <input
          class="value grow"
          name="task"
          aria-label="A task’s number or address"
          placeholder="a task’s number or address"
        />
        <select class="value" name="project" aria-label="or a project">
          <option value="">or a project</option>
          {#each choices.projects.filter(({ id }) => id !== task.values.projectId) as { id, name } (id)}<option
              value={id}>{name}</option
            >{/each}
        </select>
        <button class="button">Connect</button>
      </form>
      {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
      {#if task.contacts.length > 0 && may('look after people')}
        <form class="row" method="POST" action="/tasks/{task.id}?/contacts" use:enhance={submitDone(ondone)}>
          <span class="quiet">people outside:</span>
          {#each task.contacts as { id, name } (id)}
            <label class="check"
              ><input type="checkbox" name="contact" value={id} checked={task.contactIds.includes(id)} />
              {name}</label
            >
          {/each}
          <button class="button">Save</button>
        </form>
      {/if}
    </details>
    <p class="quiet">Task number: {task.id}</p>
  {/if}
</Part>

<style>
  li {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .check {
    display: flex;
    gap: 6px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
    text-decoration: underline;
    text-decoration-color: var(--line);
  }
</style>
