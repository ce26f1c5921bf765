<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';

  /** When a person wants no notice, how many messages a day are enough, and when what is more leaves. */
  interface Props {
    set: { quiet: string; dailyCap: string; digestDue: string; digestOverdue: string };
    fault: { errors: Record<string, string>; given: Record<string, unknown> } | null;
  }

  let { set, fault }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  const value = (name: keyof Props['set']) => String(fault?.given[name] ?? set[name]);
</script>

<h2 class="mt-5">Quiet hours and daily limit</h2>
<form id="digest-times" method="POST" action="?/quiet" use:enhance={submitDone(done)}>
  <TextField
    label="Quiet hours"
    name="quiet"
    value={value('quiet')}
    error={fault?.errors.quiet ?? fault?.errors['']}
    hint="Example: 22:00-07:00, several with commas. A notice of a rule that may tell outside working hours waits until they end."
  />
  <TextField
    label="Daily limit"
    inputmode="numeric"
    name="dailyCap"
    value={value('dailyCap')}
    error={fault?.errors.dailyCap}
    hint="Empty: no limit."
  />
  <Field
    label="Digest time: due work"
    error={fault?.errors.digestDue}
    hint="Working days. Empty: when working time starts."
  >
    {#snippet control(attributes)}<TimeField
        class="value"
        name="digestDue"
        value={value('digestDue')}
        {...attributes}
      />{/snippet}
  </Field>
  <Field label="Digest time: overdue work" error={fault?.errors.digestOverdue}>
    {#snippet control(attributes)}<TimeField
        class="value"
        name="digestOverdue"
        value={value('digestOverdue')}
        {...attributes}
      />{/snippet}
  </Field>
  <p><button class="button">Save the hours</button></p>
</form>

<style>
  form {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
    gap: 10px 16px;
    margin-top: 8px;
    max-width: 620px;
  }
  @media (max-width: 500px) {
    form {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
