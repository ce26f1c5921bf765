<script lang="ts">
  import type { FieldValue } from '$lib/core/task/model.ts';
  import Field from '$lib/ui/form/Field.svelte';
  import type { FieldView } from '$lib/view/tasks.ts';
  import PeopleChoice from './PeopleChoice.svelte';
  import MomentField from '../form/date/MomentField.svelte';
  import type { DaysOf } from '$lib/view/days.ts';
  import DateField from '../form/date/DateField.svelte';

  /** The workspace's own fields of a task, each with the control of its kind. */
  interface Props {
    values: Record<number, FieldValue | null>;
    fields: readonly FieldView[];
    people: readonly { id: number; name: string; place: string }[];
    errors: Record<string, string>;
    /** Whose closed days count in dates. */
    of: DaysOf;
  }

  let { values = $bindable(), fields, people, errors, of }: Props = $props();

  const set = (id: number, value: FieldValue | null | '') => (values[id] = value === '' ? null : value);
  const text = (id: number) => {
    const value = values[id];
    return value === null || value === undefined ? '' : String(value);
  };
  const list = (id: number) => (Array.isArray(values[id]) ? (values[id] as (string | number)[]) : []);
  const range = (id: number) => {
    const value = values[id];
    return value !== null && typeof value === 'object' && 'from' in value ? value : { from: '', until: '' };
  };
  const setRange = (id: number, patch: Partial<{ from: string; until: string }>) => {
    const next = { ...range(id), ...patch };
    set(id, next.from || next.until ? next : null);
  };
</script>

<fieldset>
  <legend>Task fields</legend>
  <div class="pair">
    {#each fields as field (field.id)}
      {@const error = errors[`fields.${field.id}`]}
      {#if field.kind === 'people'}
        <PeopleChoice
          label={field.name}
          {people}
          bind:chosen={() => list(field.id).map(Number), (ids) => set(field.id, ids.length > 0 ? ids : null)}
        />
      {:else if field.kind === 'many choices'}
        <div class="field">
          <span class="label">{field.name}</span>
          {#each field.choices as choice (choice)}
            <label class="check"
              ><input
                type="checkbox"
                checked={list(field.id).includes(choice)}
                onchange={(event) => {
                  const others = list(field.id).filter((one) => one !== choice);
                  set(field.id, event.currentTarget.checked ? [...others, choice] : others);
                }}
              />
              {choice}</label
            >
          {/each}
          {#if error}<span class="fault">{error}</span>{/if}
        </div>
      {:else}
        <Field label={field.name} {error}>
          {#snippet control(attributes)}
            {#if field.kind === 'yes or no'}
              <select
                class="value"
                value={values[field.id] === true ? 'yes' : values[field.id] === false ? 'no' : ''}
                onchange={(event) =>
                  set(
                    field.id,
                    event.currentTarget.value === '' ? null : event.currentTarget.value === 'yes'
                  )}
                {...attributes}
              >
                <option value="">no value</option><option value="yes">yes</option><option value="no"
                  >no</option
                >
              </select>
            {:else if field.kind === 'one choice'}
              <select
                class="value"
                value={text(field.id)}
                onchange={(event) => set(field.id, event.currentTarget.value)}
                {...attributes}
              >
                <option value="">none</option>
                {#each field.choices as choice (choice)}<option>{choice}</option>{/each}
              </select>
            {:else if field.kind === 'person'}
              <select
                class="value"
                value={text(field.id)}
                onchange={(event) => set(field.id, Number(event.currentTarget.value) || null)}
                {...attributes}
              >
                <option value="">nobody</option>
                {#each people as person (person.id)}<option value={String(person.id)}>{person.name}</option
                  >{/each}
              </select>
            {:else if field.kind === 'date range'}
              <span class="range">
                <DateField
                  live
                  value={range(field.id).from}
                  {of}
                  onchange={(from) => setRange(field.id, { from: from ?? '' })}
                  onfault={(from) => setRange(field.id, { from })}
                  {...attributes}
                />
                <span>to</span>
                <DateField
                  live
                  label="{field.name}, until"
                  value={range(field.id).until}
                  {of}
                  onchange={(until) => setRange(field.id, { until: until ?? '' })}
                  onfault={(until) => setRange(field.id, { until })}
                />
              </span>
            {:else if field.kind === 'date'}
              <DateField
                live
                value={text(field.id)}
                {of}
                onchange={(date) => set(field.id, date ?? '')}
                onfault={(typed) => set(field.id, typed)}
                {...attributes}
              />
            {:else if field.kind === 'date with time'}
              <MomentField
                label={field.name}
                value={text(field.id)}
                {of}
                onchange={(moment) => set(field.id, moment)}
                {...attributes}
              />
            {:else}
              <input
                class="value"
                type={field.kind === 'link' ? 'url' : 'text'}
                inputmode={field.kind === 'number' ? 'decimal' : undefined}
                placeholder={field.kind === 'link' ? 'https://' : undefined}
                value={text(field.id)}
                onchange={(event) => set(field.id, event.currentTarget.value)}
                {...attributes}
              />
              {#if field.kind === 'link' && text(field.id).startsWith('http')}<a
                  class="quiet"
                  href={text(field.id)}
                  rel="noreferrer external"
                  target="_blank">open it</a
                >{/if}
            {/if}
          {/snippet}
        </Field>
      {/if}
    {/each}
  </div>
</fieldset>

<style>
  legend {
    color: var(--ink-2);
    font-size: 12.5px;
    margin-bottom: 6px;
  }
  .pair {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
    gap: 12px 16px;
  }
  .check {
    display: flex;
    gap: 8px;
  }
  .range {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
  }
</style>
