<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import { FIELD_KINDS, type FieldKind } from '$lib/core/task/model.ts';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { FieldView } from '$lib/view/tasks.ts';

  /** The workspace's own fields of a task. */
  interface Props {
    fields: readonly (FieldView & { namedBy: string })[];
    statuses: readonly { id: number; name: string }[];
    fault: { errors: Record<string, string> } | null;
  }

  let { fields, statuses, fault }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  let opened: number | null = $state(null);
  let kind: FieldKind = $state('text');

  const dated = (of: FieldKind) => of === 'date' || of === 'date with time' || of === 'date range';
  const chosen = (of: FieldKind) => of === 'one choice' || of === 'many choices';
  const about = (field: FieldView) => {
    const met = statuses.find(({ id }) => id === field.metByStatusId);
    if (met) return `${field.kind}, a deadline that “${met.name}” meets`;
    return chosen(field.kind) ? `${field.kind}: ${field.choices.join(', ')}` : field.kind;
  };
  function open(field: FieldView | null) {
    opened = field?.id ?? 0;
    kind = field?.kind ?? 'text';
  }
</script>

<h2 class="mt-6">Task fields</h2>
<p class="quiet">Every task has these fields. A date field can be a deadline that a status meets.</p>
<ul>
  {#each fields as field (field.id)}
    <li>
      <span class="about"><b>{field.name}</b> <span class="quiet">{about(field)}</span></span>
      <button class="button plain" onclick={() => open(field)}>Change</button>
      <form method="POST" action="?/dropField" use:enhance={submitDone(done)}>
        <input type="hidden" name="id" value={field.id} />
        {#if field.namedBy}<span class="brick-text">stops these rules: {field.namedBy}</span>{/if}
        <button
          class="button plain"
          aria-label="Remove {field.namedBy ? 'anyway: ' : ''}the field {field.name}"
          >Remove{field.namedBy ? ' anyway' : ''}</button
        >
      </form>
    </li>
    {#if opened === field.id}<li>{@render editor(field)}</li>{/if}
  {/each}
</ul>
{#if opened === 0}{@render editor(null)}{:else}<button class="button" onclick={() => open(null)}
    >Add a field</button
  >{/if}
{#if fault}<p class="fault" role="alert">{Object.values(fault.errors)[0]}</p>{/if}

{#snippet editor(field: FieldView | null)}
  <form
    class="editor"
    method="POST"
    action="?/field"
    use:enhance={submitDone((said) => {
      opened = null;
      done(said);
    })}
  >
    <input type="hidden" name="id" value={field?.id ?? ''} />
    <label class="field"
      ><span class="label">Field name</span><input
        class="value"
        name="name"
        value={field?.name ?? ''}
      /></label
    >
    <label class="field"
      ><span class="label">Kind</span><select class="value" name="kind" bind:value={kind}>
        {#each FIELD_KINDS as one (one)}<option>{one}</option>{/each}
      </select></label
    >
    {#if chosen(kind)}
      <label class="field"
        ><span class="label">Choices, one per line</span><textarea
          class="value"
          name="choices"
          rows="3"
          value={field?.choices.join('\n') ?? ''}></textarea></label
      >
    {/if}
    {#if dated(kind)}
      <label class="field"
        ><span class="label">Deadline met by status</span><select
          class="value"
          name="metByStatusId"
          value={field?.metByStatusId ? String(field.metByStatusId) : ''}
        >
          <option value="">no deadline</option>
          {#each statuses as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
        </select></label
      >
    {/if}
    <p class="flex gap-2">
      <button class="button main">Save the field</button>
      <button type="button" class="button" onclick={() => (opened = null)}>Cancel</button>
    </p>
  </form>
{/snippet}

<style>
  .about {
    flex: 1;
  }
  li {
    display: flex;
    gap: 2px;
    align-items: center;
    padding: 2px 0;
  }
  .editor {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: end;
    padding: 6px 0 10px;
  }
</style>
