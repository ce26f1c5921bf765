<script lang="ts">
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import TimeInput from '$lib/ui/form/TimeInput.svelte';
  import type { TaskChoices, TaskFormView } from '$lib/view/tasks.ts';

  interface Props {
    values: TaskFormView;
    choices: TaskChoices;
    /** Faults by field; the empty key is about the whole. */
    errors: Record<string, string>;
  }

  let { values, choices, errors }: Props = $props();
  let ownerId = $derived(values.ownerId);
  const place = $derived(choices.people.find(({ id }) => id === Number(ownerId))?.place);
</script>

<div class="grid gap-3">
  {#if errors['']}<p class="band brick" role="alert"><b>Not saved</b><span>{errors['']}</span></p>{/if}
  <TextField label="Task" name="name" value={values.name} maxlength={10_000} error={errors.name} />
  <div class="pair">
    <Field
      label="Owner"
      error={errors.ownerId}
      hint={ownerId ? undefined : 'Without an owner nobody can be told.'}
    >
      {#snippet control(attributes)}
        <select class="value" name="ownerId" bind:value={ownerId} {...attributes}>
          <option value={null}>No owner</option>
          {#each choices.people as person (person.id)}<option value={person.id}
              >{person.name} · {person.place}</option
            >{/each}
        </select>
      {/snippet}
    </Field>
    <Field label="Project" error={errors.projectId}>
      {#snippet control(attributes)}
        <select class="value" name="projectId" {...attributes}>
          <option value="">No project</option>
          {#each choices.projects as { id, name } (id)}<option value={id} selected={values.projectId === id}
              >{name}</option
            >{/each}
        </select>
      {/snippet}
    </Field>
    <TextField
      label="Due date"
      type="date"
      name="dueDate"
      value={values.dueDate ?? ''}
      error={errors.dueDate}
    />
    <Field
      label="Due time{place ? `, in ${place}` : ''}"
      error={errors.dueTime}
      hint="Without a time it is due when that day ends."
    >
      {#snippet control(attributes)}<TimeInput
          class="value"
          name="dueTime"
          value={values.dueTime}
          {...attributes}
        />{/snippet}
    </Field>
    <TextField
      label="Start date"
      type="date"
      name="startDate"
      value={values.startDate ?? ''}
      error={errors.startDate}
    />
    <Field label="Start time{place ? `, in ${place}` : ''}" error={errors.startTime}>
      {#snippet control(attributes)}<TimeInput
          class="value"
          name="startTime"
          value={values.startTime}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Status" error={errors.statusId}>
      {#snippet control(attributes)}
        <select class="value" name="statusId" {...attributes}>
          {#each choices.statuses as { id, name } (id)}<option value={id} selected={values.statusId === id}
              >{name}</option
            >{/each}
        </select>
      {/snippet}
    </Field>
    <Field label="Priority" error={errors.priority}>
      {#snippet control(attributes)}
        <select class="value" name="priority" {...attributes}>
          {#each ['low', 'ordinary', 'high', 'pressing'] as priority (priority)}
            <option selected={values.priority === priority}>{priority}</option>
          {/each}
        </select>
      {/snippet}
    </Field>
  </div>
  <label class="check"
    ><input type="checkbox" name="private" checked={values.private} /> Private: nobody else sees it, and only a
    rule of your own rings for it</label
  >
  {#if errors.private}<span class="fault">{errors.private}</span>{/if}
  <Field label="Description" error={errors.description}>
    {#snippet control(attributes)}<textarea
        class="value"
        name="description"
        rows="4"
        value={values.description}
        {...attributes}></textarea>{/snippet}
  </Field>
</div>

<style>
  .check {
    display: flex;
    gap: 8px;
    align-items: baseline;
    font-size: 13px;
  }
  .pair {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
    gap: 12px 16px;
  }
</style>
