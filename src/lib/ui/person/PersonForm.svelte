<script lang="ts">
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import ZoneInput from '$lib/ui/form/ZoneInput.svelte';
  import { ROLES } from '$lib/core/access/deeds.ts';
  import type { ZoneChoice } from '$lib/view/people.ts';

  interface Props {
    values: {
      name: string;
      email: string;
      phone: string;
      zone: string;
      calendarId: number | null;
      managerId: number | null;
      role: string;
      groups: string;
    };
    choices: {
      zones: ZoneChoice[];
      calendars: { id: number; name: string }[];
      managers: { id: number; name: string }[];
      groups: string[];
    };
    errors: Record<string, string>;
    mayGiveAccess: boolean;
    /** Whoever reads mail at an address can come in by it. */
    mayChangeAddress?: boolean;
  }

  let { values, choices, errors, mayGiveAccess, mayChangeAddress = true }: Props = $props();
</script>

<div class="grid gap-3">
  {#if errors['']}<p class="band brick" role="alert"><b>Not saved</b><span>{errors['']}</span></p>{/if}
  <TextField label="Name" name="name" value={values.name} error={errors.name} />
  <TextField
    label="Mail address"
    name="email"
    value={values.email}
    error={errors.email}
    readonly={!mayChangeAddress}
    hint={mayChangeAddress
      ? 'Without an address they get no mail.'
      : 'Only an administrator can change this: who reads this mail can sign in.'}
  />
  <TextField label="Telephone" name="phone" value={values.phone} error={errors.phone} />
  <Field label="Time zone" error={errors.zone} hint="Type a place, like Lisbon or Kolkata, and choose.">
    {#snippet control(attributes)}<ZoneInput
        name="zone"
        value={values.zone}
        zones={choices.zones}
        {...attributes}
      />{/snippet}
  </Field>
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
  <TextField
    label="Groups"
    name="groups"
    value={values.groups}
    error={errors.groups}
    hint={choices.groups.length > 0
      ? `Separated by commas. There are: ${choices.groups.join(', ')}.`
      : 'Separated by commas; a new name makes a new group.'}
  />
  {#if mayGiveAccess}
    <Field
      label="Role"
      error={errors.role}
      hint="Owner: own and project tasks. Manager: also the team’s. Coordinator: all. Administrator: also access and settings."
    >
      {#snippet control(attributes)}
        <select class="value" name="role" {...attributes}>
          {#each ROLES as role (role)}<option selected={values.role === role}>{role}</option>{/each}
        </select>
      {/snippet}
    </Field>
  {:else}<input type="hidden" name="role" value={values.role} />{/if}
</div>
