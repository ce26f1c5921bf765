<script lang="ts">
  import Tags from '../parts/Tags.svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import DateField from '$lib/ui/form/date/DateField.svelte';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import type { TaskChoices, TaskFormView } from '$lib/view/tasks.ts';
  import OwnFields from './OwnFields.svelte';
  import PeopleChoice from './PeopleChoice.svelte';
  import RhythmPart from './RhythmPart.svelte';

  interface Props {
    /** What is being written. */
    draft: TaskFormView;
    choices: TaskChoices;
    /** Faults by field; the empty key is about the whole. */
    errors: Record<string, string>;
    /** When it comes back, in words; null when it does not. */
    nextRound?: string | null;
  }

  let { draft = $bindable(), choices, errors, nextRound = null }: Props = $props();
  const place = $derived(choices.people.find(({ id }) => id === draft.ownerId)?.place);
  const sections = $derived(choices.sections.filter(({ projectId }) => projectId === draft.projectId));
  /** Its dates go by its owner's calendar, else by its project's. */
  const of = $derived({ task: { owner: draft.ownerId, project: draft.projectId } });
  const further = $derived(
    draft.remindDate !== null ||
      draft.percent !== null ||
      draft.logTime ||
      draft.keep ||
      draft.rhythm !== null ||
      draft.otherOwnerIds.length > 0 ||
      ['remindDate', 'remindTime', 'percent', 'rhythm', 'otherOwnerIds'].some((name) => errors[name])
  );
</script>

<div class="grid gap-3">
  {#if errors['']}<p class="band brick" role="alert"><b>Not saved</b><span>{errors['']}</span></p>{/if}
  <Field label="Task" error={errors.name}>
    {#snippet control(attributes)}<input
        class="value"
        bind:value={draft.name}
        maxlength={10_000}
        dir="auto"
        {...attributes}
      />{/snippet}
  </Field>
  <div class="pair">
    <Field
      label="Owner"
      error={errors.ownerId}
      hint={draft.ownerId ? undefined : 'Without an owner nobody can be told.'}
    >
      {#snippet control(attributes)}
        <select class="value" bind:value={draft.ownerId} {...attributes}>
          <option value={null}>No owner</option>
          {#each choices.people as person (person.id)}<option value={person.id}
              >{person.name} · {person.place}</option
            >{/each}
        </select>
      {/snippet}
    </Field>
    <Field label="Project" error={errors.projectId}>
      {#snippet control(attributes)}
        <select
          class="value"
          bind:value={draft.projectId}
          onchange={() => (draft.sectionId = null)}
          {...attributes}
        >
          <option value={null}>No project</option>
          {#each choices.projects as { id, name } (id)}<option value={id}>{name}</option>{/each}
        </select>
      {/snippet}
    </Field>
    {#if sections.length > 0}
      <Field label="Section" error={errors.sectionId}>
        {#snippet control(attributes)}
          <select class="value" bind:value={draft.sectionId} {...attributes}>
            <option value={null}>No section</option>
            {#each sections as { id, name } (id)}<option value={id}>{name}</option>{/each}
          </select>
        {/snippet}
      </Field>
    {/if}
    <Field label="Due date" error={errors.dueDate}>
      {#snippet control(attributes)}<DateField
          live
          value={draft.dueDate}
          {of}
          onchange={(day) => (draft.dueDate = day)}
          onfault={(typed) => (draft.dueDate = typed)}
          {...attributes}
        />{/snippet}
    </Field>
    <Field
      label="Due time{place ? `, in ${place}` : ''}"
      error={errors.dueTime}
      hint="No time: due at the end of the day."
    >
      {#snippet control(attributes)}<TimeField
          class="value"
          value={draft.dueTime}
          onchange={(time) => (draft.dueTime = time)}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Start date" error={errors.startDate}>
      {#snippet control(attributes)}<DateField
          live
          value={draft.startDate}
          {of}
          onchange={(day) => (draft.startDate = day)}
          onfault={(typed) => (draft.startDate = typed)}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Start time{place ? `, in ${place}` : ''}" error={errors.startTime}>
      {#snippet control(attributes)}<TimeField
          class="value"
          value={draft.startTime}
          onchange={(time) => (draft.startTime = time)}
          {...attributes}
        />{/snippet}
    </Field>
    <Field label="Status" error={errors.statusId}>
      {#snippet control(attributes)}
        <select class="value" bind:value={draft.statusId} {...attributes}>
          {#if draft.statusId === null}<option value={null}>{choices.statuses[0]?.name}</option>{/if}
          {#each choices.statuses as { id, name } (id)}<option value={id}>{name}</option>{/each}
        </select>
      {/snippet}
    </Field>
    <Field label="Priority" error={errors.priority}>
      {#snippet control(attributes)}
        <select class="value" bind:value={draft.priority} {...attributes}>
          {#each ['low', 'ordinary', 'high', 'pressing'] as priority (priority)}
            <option>{priority}</option>
          {/each}
        </select>
      {/snippet}
    </Field>
  </div>
  <Tags label="Tags" tags={draft.tags} known={choices.tags} onchange={(tags) => (draft.tags = tags)} />
  {#if errors.tags}<p class="fault" role="alert">{errors.tags}</p>{/if}
  <Field label="Description" error={errors.description}>
    {#snippet control(attributes)}<textarea
        class="value"
        rows="3"
        dir="auto"
        bind:value={draft.description}
        {...attributes}></textarea>{/snippet}
  </Field>
  <label class="check"
    ><input type="checkbox" bind:checked={draft.private} /> Private: only you see it; only your own rules ring for
    it</label
  >
  {#if errors.parentId}<span class="fault" role="alert">{errors.parentId}</span>{/if}
  {#if errors.private}<span class="fault">{errors.private}</span>{/if}

  <details open={further}>
    <summary>More: reminder date, repeats, percent, other owners</summary>
    <div class="pair">
      <Field label="Remind on" error={errors.remindDate} hint="A day that rules can count from.">
        {#snippet control(attributes)}<DateField
            live
            value={draft.remindDate}
            {of}
            onchange={(day) => (draft.remindDate = day)}
            onfault={(typed) => (draft.remindDate = typed)}
            {...attributes}
          />{/snippet}
      </Field>
      <Field label="Remind at{place ? `, in ${place}` : ''}" error={errors.remindTime}>
        {#snippet control(attributes)}<TimeField
            class="value"
            value={draft.remindTime}
            onchange={(time) => (draft.remindTime = time)}
            {...attributes}
          />{/snippet}
      </Field>
      <Field label="Percent done" error={errors.percent}>
        {#snippet control(attributes)}<input
            class="value"
            type="number"
            min="0"
            max="100"
            bind:value={draft.percent}
            {...attributes}
          />{/snippet}
      </Field>
    </div>
    <PeopleChoice
      label="Also owned by"
      people={choices.people.filter(({ id }) => id !== draft.ownerId)}
      bind:chosen={draft.otherOwnerIds}
    />
    {#if errors.otherOwnerIds}<span class="fault">{errors.otherOwnerIds}</span>{/if}
    <RhythmPart bind:draft error={errors.rhythm} {nextRound} />
    <label class="check"
      ><input type="checkbox" bind:checked={draft.logTime} /> Time must be logged before it is closed</label
    >
    <label class="check"><input type="checkbox" bind:checked={draft.keep} /> Keep: no sweep changes it</label>
  </details>
  {#if choices.fields.length > 0}
    <OwnFields {of} bind:values={draft.fields} fields={choices.fields} people={choices.people} {errors} />
  {/if}
</div>

<style>
  .check {
    display: flex;
    gap: 8px;
    align-items: baseline;
    font-size: 13px;
  }
  .pair {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
    gap: 12px 16px;
  }
  details {
    display: grid;
    gap: 10px;
  }
  details > :global(*) {
    margin-top: 10px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
    color: var(--ink-2);
    font-size: 13px;
  }
</style>
