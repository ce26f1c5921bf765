<script lang="ts">
  import { enhance } from '$app/forms';
  import TextField from '$lib/ui/form/TextField.svelte';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
</script>

<Threshold title="Sign in">
  {#if data.demoPeople.length > 0}
    <p class="quiet">This is the demo workspace. Sign in as a coordinator:</p>
    <form method="POST" action="/sign-in/demo" class="grid gap-2">
      <input type="hidden" name="to" value={data.to} />
      {#each data.demoPeople.filter(({ coordinates }) => coordinates) as person (person.id)}
        <button class="button justify-between" name="person" value={person.id}>
          {person.name} <span class="quiet">{person.place}</span>
        </button>
      {/each}
      <details class="mt-2">
        <summary class="quiet">or as another person</summary>
        <div class="mt-2 grid gap-1">
          {#each data.demoPeople.filter(({ coordinates }) => !coordinates) as person (person.id)}
            <button class="button plain justify-between" name="person" value={person.id}>
              {person.name} <span class="quiet">{person.role} · {person.place}</span>
            </button>
          {/each}
        </div>
      </details>
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
      <TextField
        label="Mail address"
        type="email"
        name="email"
        autocomplete="username"
        value={form?.email ?? ''}
        error={form?.errors.email}
      />
      <TextField
        label="Password"
        type="password"
        name="password"
        autocomplete="current-password"
        value=""
        error={form?.errors.password}
      />
      <p class="flex items-center gap-4">
        <button class="button main">Sign in</button>
        <a class="quiet" href="/sign-in/forgotten">Forgotten the password?</a>
      </p>
    </form>
  {/if}
</Threshold>
