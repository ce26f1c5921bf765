<script lang="ts">
  import { enhance } from '$app/forms';
  import TextField from '$lib/ui/form/TextField.svelte';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
</script>

<Threshold title="Choose a password">
  <p>{data.name}: this link works once.</p>
  <form method="POST" use:enhance class="grid gap-3">
    <input type="hidden" name="username" autocomplete="username" value={data.email} />
    <TextField
      label="Password"
      name="password"
      type="password"
      autocomplete="new-password"
      value=""
      error={form?.message}
      hint="At least 10 characters."
    />
    <button class="button main justify-self-start">Save password</button>
  </form>
</Threshold>
