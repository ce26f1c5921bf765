<script lang="ts">
  import { enhance } from '$app/forms';
  import X from '@lucide/svelte/icons/x';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';

  /** A small button that takes one thing off a task. */
  interface Props {
    action: string;
    /** The field that names the thing, and its number. */
    name: string;
    id: number;
    label: string;
    ondone: (done: Done) => void;
  }

  let { action, name, id, label, ondone }: Props = $props();
</script>

<form method="POST" {action} use:enhance={submitDone(ondone)}>
  <input type="hidden" {name} value={id} />
  <button class="button plain" aria-label={label}><X size={13} /></button>
</form>
