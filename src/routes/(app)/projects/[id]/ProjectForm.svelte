<script lang="ts">
  import { enhance } from '$app/forms';
  import { getContext } from 'svelte';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import Field from '$lib/ui/form/Field.svelte';
  import TextField from '$lib/ui/form/TextField.svelte';
  import ZoneInput from '$lib/ui/form/ZoneInput.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import type { EffectView } from '$lib/view/effects.ts';
  import type { ProjectFormView } from '$lib/view/projects.ts';
  import { askEffect, type EffectAnswer } from '../../ask-effect.ts';
  import type { PageData } from './$types';

  /** What a project is, with what saving would do as it is typed. */
  interface Props {
    data: Pick<PageData, 'project' | 'calendars' | 'zones'>;
    /** What was typed and refused. */
    failed: { values?: Partial<ProjectFormView>; errors?: Record<string, string> } | null;
    editable: boolean;
  }

  let { data, failed, editable }: Props = $props();
  const done = getContext<(done: Done) => void>('done');
  const project = $derived(data.project);
  const errors = $derived(failed?.errors ?? {});
  const text = $derived(JSON.stringify(project.values));
  const values = $derived({
    ...(JSON.parse(text) as ProjectFormView),
    ...(failed?.errors ? failed.values : {})
  });
  let moved = $state<EffectView | null>(null);
  /** How far what is asked has come, where that takes long. */
  let part = $state<number | null>(null);
  let stopAsking = () => {};
  /** What has been typed is asked about once it differs from what is saved in anything that rules look at. */
  function ask(sheet: HTMLFormElement) {
    stopAsking();
    const typed = new FormData(sheet);
    const text = (name: string) => String(typed.get(name) ?? '');
    const draft = {
      ...{ name: text('name'), description: text('description'), zone: text('zone'), state: text('state') },
      calendarId: Number(text('calendarId')) || null,
      pinned: typed.get('pinned') === 'on',
      register: typed.get('register') === 'on'
    };
    const { zone, state, calendarId, pinned, register } = project.values;
    const saved = { zone: zone ?? '', state, calendarId, pinned, register };
    moved = part = null;
    if (Object.entries(saved).every(([key, value]) => draft[key as keyof typeof saved] === value)) return;
    const answered = (answer: EffectAnswer) => {
      moved = 'moved' in answer ? answer.moved : null;
      part = null;
    };
    stopAsking = askEffect(`/projects/${project.row.id}/effect`, draft, answered, (come) => (part = come));
  }
</script>

<form
  method="POST"
  action="?/save"
  use:enhance={submitDone(done, undefined, () => (moved = null))}
  oninput={({ currentTarget }) => ask(currentTarget)}
>
  <fieldset disabled={!editable} class="grid gap-3">
    {#if errors['']}<p class="band brick" role="alert"><b>Not saved</b><span>{errors['']}</span></p>{/if}
    <TextField label="Name" name="name" value={values.name} error={errors.name} />
    <Field label="Description" error={errors.description}>
      {#snippet control(attributes)}<textarea
          class="value"
          name="description"
          rows="3"
          value={values.description}
          {...attributes}></textarea>{/snippet}
    </Field>
    <div class="pair">
      <Field label="State" error={errors.state} hint="If called off or closed, no rule rings.">
        {#snippet control(attributes)}<select class="value" name="state" value={values.state} {...attributes}>
            <option>open</option><option>called off</option><option>closed</option>
          </select>{/snippet}
      </Field>
      <Field label="Calendar" error={errors.calendarId} hint="For tasks without an owner and fixed dates.">
        {#snippet control(attributes)}<select
            class="value"
            name="calendarId"
            value={values.calendarId === null ? '' : String(values.calendarId)}
            {...attributes}
          >
            <option value="">the workspace’s</option>
            {#each data.calendars as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
          </select>{/snippet}
      </Field>
      <Field label="Place" error={errors.zone}>
        {#snippet control(attributes)}<ZoneInput
            name="zone"
            value={values.zone}
            zones={data.zones}
            {...attributes}
          />{/snippet}
      </Field>
    </div>
    <label class="check"
      ><input type="checkbox" name="pinned" checked={values.pinned} /> Dates use this place’s time zone, not the
      owner’s</label
    >
    <label class="check"
      ><input type="checkbox" name="register" checked={values.register} /> Register: dates only, never overdue</label
    >
    {#if part !== null}<Looking {part} />{/if}
    {#if moved}<section aria-label="Effect of saving"><Effect effect={moved} /></section>{/if}
    {#if editable}<p><button class="button main">Save</button></p>{/if}
  </fieldset>
</form>

<style>
  .pair {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
    gap: 12px 16px;
  }
  .check {
    display: flex;
    gap: 8px;
    font-size: 13px;
  }
</style>
