<script lang="ts">
  import { enhance } from '$app/forms';
  import TextField from '$lib/ui/form/TextField.svelte';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { ActionData } from './$types';

  let { form }: { form: ActionData } = $props();
</script>

<Threshold title="A new password">
  {#if form?.asked}
    <p role="status">
      If {form.email} can sign in here, a link was sent. It works once, for 2 hours.
    </p>
    <p><a href="/sign-in">Back to sign-in</a></p>
  {:else}
    <p class="quiet">You get a link by mail to choose a new password.</p>
    <form method="POST" use:enhance class="grid gap-3">
      <TextField
        label="Mail address"
        type="email"
        name="email"
        autocomplete="username"
        value={form?.email ?? ''}
        error={form?.error || undefined}
      />
      <p class="flex items-center gap-4">
        <button class="button main">Send the link</button><a class="quiet" href="/sign-in">Back</a>
      </p>
    </form>
  {/if}
</Threshold>
