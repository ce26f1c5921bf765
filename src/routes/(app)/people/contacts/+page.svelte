<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import ZoneInput from '$lib/ui/form/ZoneInput.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { ActionData, PageData } from './$types';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');
  const errors = $derived<Record<string, string>>(form?.errors ?? {});
  const sent = $derived<Record<string, unknown> | null>(form?.given ?? null);
  const given = (name: 'name' | 'email' | 'phone' | 'zone' | 'note') =>
    String(sent?.[name] ?? data.chosen?.[name] ?? (name === 'zone' ? data.zone : ''));
  const linked = $derived((sent?.projectIds as number[] | undefined) ?? data.chosen?.projectIds ?? []);
  const names = $derived(new Map(data.projects.map(({ id, name }) => [id, name])));
</script>

<svelte:head><title>Outside contacts · Early Bell</title></svelte:head>

<p class="quiet"><a href="/people">People</a></p>
<h1>Outside contacts</h1>
<p class="quiet mb-3">
  Suppliers, visitors, offices. They cannot sign in. Messages show them only a task’s name, date and project.
</p>

<div class="columns">
  <section>
    {#if data.contacts.length === 0}<p class="quiet">No outside contacts yet. Add the first one.</p>
    {:else}
      <table>
        <caption class="sr">Outside contacts</caption>
        <thead><tr><th>Name</th><th>Address and number</th><th>Local time</th><th>Linked to</th></tr></thead>
        <tbody>
          {#each data.contacts as contact (contact.id)}
            <tr>
              <td
                ><a href="/people/contacts?contact={contact.id}">{contact.name}</a>{#if contact.note}<span
                    class="quiet block">{contact.note}</span
                  >{/if}</td
              >
              <td class="wrap"
                >{contact.email}{#if contact.phone}<span class="block">{contact.phone}</span
                  >{/if}{#if !contact.email && !contact.phone}<span class="brick-text">cannot be reached</span
                  >{/if}</td
              >
              <td>{contact.time} <span class="quiet">{contact.place}</span></td>
              <td>
                {#each contact.projectIds as id (id)}<span class="block">{names.get(id) ?? ''}</span>{/each}
                {#each contact.tasks as task (task.id)}<a class="block" href="/tasks/{task.id}">{task.name}</a
                  >{/each}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
  </section>
  <section>
    <h2>{data.chosen ? data.chosen.name : 'Add a contact'}</h2>
    {#key data.chosen?.id}
      <form method="POST" action="?/save" use:enhance={submitDone(done)} class="grid gap-3">
        {#if data.chosen}<input type="hidden" name="id" value={data.chosen.id} />{/if}
        {#if errors['']}<p class="band brick" role="alert">
            <b>Not saved</b><span>{errors['']}</span>
          </p>{/if}
        <TextField label="Name" name="name" value={given('name')} error={errors.name} />
        <TextField label="Mail address" name="email" value={given('email')} error={errors.email} />
        <TextField label="Telephone" name="phone" value={given('phone')} error={errors.phone} />
        <Field label="Time zone" error={errors.zone}>
          {#snippet control(attributes)}<ZoneInput
              name="zone"
              value={given('zone')}
              zones={data.zones}
              {...attributes}
            />{/snippet}
        </Field>
        <TextField label="Note" name="note" value={given('note')} error={errors.note} />
        <fieldset>
          <legend>Projects</legend>
          {#each data.projects as { id, name } (id)}
            <label
              ><input type="checkbox" name="projectIds" value={id} checked={linked.includes(id)} />
              {name}</label
            >
          {/each}
        </fieldset>
        <TextField
          label="Tasks, by number"
          name="tasks"
          value={String(sent?.tasks ?? data.chosen?.tasks.map(({ id }) => id).join(', ') ?? '')}
          error={errors.tasks}
          hint="From the task’s address, separated by commas."
        />
        <p class="flex gap-2">
          <button class="button main">{data.chosen ? 'Save' : 'Add the contact'}</button>
          {#if data.chosen}<a class="button" href="/people/contacts">Cancel</a>{/if}
        </p>
      </form>
      {#if data.chosen}
        <form method="POST" action="?/remove" use:enhance={submitDone(done)} class="mt-3">
          <input type="hidden" name="id" value={data.chosen.id} />
          <button class="button">Remove {data.chosen.name}</button>
        </form>
      {/if}
    {/key}
  </section>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
    gap: 28px;
  }
  h2 {
    margin-bottom: 8px;
  }
  legend {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  fieldset label {
    display: flex;
    gap: 8px;
    align-items: baseline;
    font-size: 13px;
  }
  .block {
    display: block;
  }
  .wrap {
    overflow-wrap: anywhere;
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
