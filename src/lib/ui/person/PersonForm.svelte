<script lang="ts">
  import Field from '$lib/ui/form/Field.svelte';

  interface Props {
    values: {
      name: string;
      email: string;
      zone: string;
      calendarId: number | null;
      managerId: number | null;
      role: string;
    };
    choices: {
      zones: string[];
      calendars: { id: number; name: string }[];
      managers: { id: number; name: string }[];
    };
    errors: Record<string, string>;
  }

  let { values, choices, errors }: Props = $props();
</script>

<div class="grid gap-3">
  {#if errors['']}<p class="band brick" role="alert"><b>Not saved</b><span>{errors['']}</span></p>{/if}
  <Field label="Name" error={errors.name}>
    {#snippet control(attributes)}<input
        class="value"
        name="name"
        value={values.name}
        {...attributes}
      />{/snippet}
  </Field>
  <Field label="Mail address" error={errors.email} hint="Without an address nobody can tell them anything.">
    {#snippet control(attributes)}<input
        class="value"
        name="email"
        value={values.email}
        {...attributes}
      />{/snippet}
  </Field>
  <Field label="Time zone" error={errors.zone} hint="Type a place, like Lisbon or Kolkata, and choose.">
    {#snippet control(attributes)}<input
        class="value"
        name="zone"
        list="zones"
        value={values.zone}
        {...attributes}
      />{/snippet}
  </Field>
  <datalist id="zones"
    >{#each choices.zones as name (name)}<option value={name}></option>{/each}</datalist
  >
  <Field label="Working week and holidays" error={errors.calendarId}>
    {#snippet control(attributes)}
      <select class="value" name="calendarId" {...attributes}>
        <option value="">Choose a calendar</option>
        {#each choices.calendars as { id, name } (id)}<option value={id} selected={values.calendarId === id}
            >{name}</option
          >{/each}
      </select>
    {/snippet}
  </Field>
  <Field label="Manager" error={errors.managerId}>
    {#snippet control(attributes)}
      <select class="value" name="managerId" {...attributes}>
        <option value="">Nobody</option>
        {#each choices.managers as { id, name } (id)}<option value={id} selected={values.managerId === id}
            >{name}</option
          >{/each}
      </select>
    {/snippet}
  </Field>
  <Field label="Role" error={errors.role}>
    {#snippet control(attributes)}
      <select class="value" name="role" {...attributes}>
        {#each ['owner', 'manager', 'coordinator'] as role (role)}<option selected={values.role === role}
            >{role}</option
          >{/each}
      </select>
    {/snippet}
  </Field>
</div>
