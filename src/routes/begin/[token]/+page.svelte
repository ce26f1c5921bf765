<script lang="ts">
  import { enhance } from '$app/forms';
  import { onMount } from 'svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import ZoneInput from '$lib/ui/form/ZoneInput.svelte';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  let zone = $state('');
  const errors = $derived<Record<string, string>>(form?.errors ?? {});

  onMount(() => {
    zone = form?.values.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
  });
</script>

<Threshold title="Set up the workspace">
  <p class="quiet">You will be the first administrator. This link works once.</p>
  <form method="POST" use:enhance class="grid gap-3">
    {#if form?.message}<p class="band brick" role="alert">
        <b>Not set up</b><span>{form.message}</span>
      </p>{/if}
    <TextField
      label="Name of the workspace"
      name="workspace"
      value={form?.values.workspace ?? ''}
      error={errors.workspace}
    />
    <TextField
      label="Your name"
      name="name"
      autocomplete="name"
      value={form?.values.name ?? ''}
      error={errors.name}
    />
    <TextField
      label="Your mail address"
      name="email"
      type="email"
      autocomplete="username"
      value={form?.values.email ?? ''}
      error={errors.email}
    />
    <TextField
      label="Password"
      name="password"
      type="password"
      autocomplete="new-password"
      value=""
      error={errors.password}
      hint="At least 10 characters."
    />
    <Field label="Time zone" error={errors.zone} hint="Type a place, like Lisbon or Kolkata, and choose.">
      {#snippet control(attributes)}<ZoneInput
          name="zone"
          value={zone}
          zones={data.zones}
          {...attributes}
        />{/snippet}
    </Field>
    <button class="button main justify-self-start">Set up</button>
  </form>
</Threshold>
