<script lang="ts">
  import { enhance } from '$app/forms';
  import Field from '$lib/ui/form/Field.svelte';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
</script>

<Threshold title="Sign in">
  {#if data.demoPeople.length > 0}
    <p class="quiet">This is the demo workspace. Come in as one of its coordinators:</p>
    <form method="POST" action="/sign-in/demo" class="grid gap-2">
      <input type="hidden" name="to" value={data.to} />
      {#each data.demoPeople as person (person.id)}
        <button class="button justify-between" name="person" value={person.id}>
          {person.name} <span class="quiet">{person.place}</span>
        </button>
      {/each}
    </form>
  {:else if data.fresh}
    <p>
      This workspace has not been set up yet. Open the one-time link that the server printed when it started.
    </p>
  {:else}
    <form method="POST" use:enhance class="grid gap-3">
      <input type="hidden" name="to" value={data.to} />
      {#if form?.message}<p class="band brick" role="alert">
          <b>Not signed in</b><span>{form.message}</span>
        </p>{/if}
      <Field label="Mail address" error={form?.errors.email}>
        {#snippet control(attributes)}
          <input
            class="value"
            type="email"
            name="email"
            autocomplete="username"
            value={form?.email ?? ''}
            {...attributes}
          />
        {/snippet}
      </Field>
      <Field label="Password" error={form?.errors.password}>
        {#snippet control(attributes)}
          <input
            class="value"
            type="password"
            name="password"
            autocomplete="current-password"
            {...attributes}
          />
        {/snippet}
      </Field>
      <button class="button main justify-self-start">Sign in</button>
    </form>
  {/if}
</Threshold>
