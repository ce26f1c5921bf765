<script lang="ts">
  import { enhance } from '$app/forms';
  import Field from '$lib/ui/form/Field.svelte';
  import Threshold from '$lib/ui/frame/Threshold.svelte';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
</script>

<Threshold title="Choose a password">
  <p>{data.name}, this link works once.</p>
  <form method="POST" use:enhance class="grid gap-3">
    <input type="hidden" name="username" autocomplete="username" value={data.email} />
    <Field label="Password" error={form?.message} hint="At least 10 characters.">
      {#snippet control(attributes)}<input
          class="value"
          name="password"
          type="password"
          autocomplete="new-password"
          {...attributes}
        />{/snippet}
    </Field>
    <button class="button main justify-self-start">Come in</button>
  </form>
</Threshold>
