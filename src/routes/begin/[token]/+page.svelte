<script lang="ts">
  import { enhance } from '$app/forms';
  import { onMount } from 'svelte';
  import Field from '$lib/ui/form/Field.svelte';
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
  <p class="quiet">You are its first coordinator. This link works once.</p>
  <form method="POST" use:enhance class="grid gap-3">
    {#if form?.message}<p class="band brick" role="alert">
        <b>Not set up</b><span>{form.message}</span>
      </p>{/if}
    <Field label="Name of the workspace" error={errors.workspace}>
      {#snippet control(attributes)}<input
          class="value"
          name="workspace"
          value={form?.values.workspace ?? ''}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Your name" error={errors.name}>
      {#snippet control(attributes)}<input
          class="value"
          name="name"
          autocomplete="name"
          value={form?.values.name ?? ''}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Your mail address" error={errors.email}>
      {#snippet control(attributes)}<input
          class="value"
          name="email"
          type="email"
          autocomplete="username"
          value={form?.values.email ?? ''}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Password" error={errors.password} hint="At least 10 characters.">
      {#snippet control(attributes)}<input
          class="value"
          name="password"
          type="password"
          autocomplete="new-password"
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Time zone" error={errors.zone}>
      {#snippet control(attributes)}<input
          class="value"
          name="zone"
          list="zones"
          bind:value={zone}
          {...attributes}
        />{/snippet}
    </Field>
    <datalist id="zones"
      >{#each data.zones as name (name)}<option value={name}></option>{/each}</datalist
    >
    <button class="button main justify-self-start">Set up</button>
  </form>
</Threshold>
