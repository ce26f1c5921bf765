<script lang="ts">
  import { BANDS } from '$lib/core/ring/overdue.ts';
  import { TASK_COLUMNS, columnsOf, type ColumnKey } from '$lib/view/task-columns.ts';
  import type { TaskChoices } from '$lib/view/tasks.ts';
  import LaterDateField from '../form/date/LaterDateField.svelte';

  export interface ListQueryView {
    text: string;
    projectId: number | 'none' | null;
    sectionId: number | null;
    ownerId: number | 'none' | null;
    statusId: number | null;
    priority: string | null;
    tag: string;
    due: string;
    from: string | null;
    until: string | null;
    recurring: boolean;
    band: string | null;
    show: string;
    sort: string;
    down: boolean;
    group: string | null;
    shape: string;
    columns: string[] | null;
  }

  /** Which tasks are shown, how, and in which order; all of it stands in the address. */
  interface Props {
    query: ListQueryView;
    choices: TaskChoices;
    me: number;
    /** Little room: what is used less stands under “More”. */
    narrow: boolean;
    /** Changes parameters of the address; an empty value takes one out. */
    onchange: (changes: Record<string, string>) => void;
  }

  let { query, choices, me, narrow, onchange }: Props = $props();

  const SHOWN = [
    ['open', 'Open'],
    ['overdue', 'Overdue'],
    ['today', 'Due today (owner’s date)'],
    ['stuck', 'Stuck on others'],
    ['out of earshot', 'Out of earshot'],
    ['done', 'Finished and closed'],
    ['all', 'All tasks in the list'],
    ['parked', 'Parked'],
    ['archived', 'Archived'],
    ['binned', 'In the bin']
  ] as const;
  const DUES = [
    ['', 'Any date'],
    ['past', 'Before today'],
    ['today', 'Today'],
    ['tomorrow', 'Tomorrow'],
    ['week', 'Rest of the week'],
    ['7', 'Within 7 days'],
    ['30', 'Within 30 days'],
    ['none', 'No date']
  ] as const;
  const GROUPS = [
    ['', 'No grouping'],
    ['due', 'By due date'],
    ['owner', 'By owner'],
    ['project', 'By project'],
    ['section', 'By section'],
    ['status', 'By status'],
    ['priority', 'By priority']
  ] as const;
  const further = $derived(
    [
      query.statusId,
      query.priority,
      query.tag,
      query.recurring,
      query.sectionId,
      query.from,
      query.until
    ].filter(Boolean).length
  );
  const columns = $derived(columnsOf(query.columns));
  const sections = $derived(choices.sections.filter(({ projectId }) => projectId === query.projectId));
  let typed = $derived(query.text);
  let timer: ReturnType<typeof setTimeout> | undefined;

  function search(text: string) {
    typed = text;
    clearTimeout(timer);
    timer = setTimeout(() => onchange({ text }), 300);
  }

  const value = (event: Event) => (event.currentTarget as HTMLSelectElement | HTMLInputElement).value;

  function turnColumn(key: ColumnKey, on: boolean) {
    const next = on ? [...columns, key] : columns.filter((one) => one !== key);
    onchange({ columns: next.join('.') || '-' });
  }

  /** Whether more filters are shown. */
  let opened = $state(false);
</script>

<search class="filters no-print">
  <label class="field text">
    <span class="label">Search</span>
    <input class="value" type="search" value={typed} oninput={(event) => search(event.currentTarget.value)} />
  </label>
  <label class="field">
    <span class="label">Show</span>
    <select class="value" value={query.show} onchange={(event) => onchange({ show: value(event), band: '' })}>
      {#each SHOWN as [key, label] (key)}<option value={key}>{label}</option>{/each}
    </select>
  </label>
  {#if query.show === 'overdue'}
    <label class="field">
      <span class="label">Overdue by</span>
      <select class="value" value={query.band ?? ''} onchange={(event) => onchange({ band: value(event) })}>
        <option value="">Any number of days</option>
        {#each BANDS as band (band)}<option value={band}
            >{band} working {band === 'under 1' ? 'day' : 'days'}</option
          >{/each}
      </select>
    </label>
  {/if}
  {#if !narrow}{@render spans()}{/if}
  <details class="more" bind:open={opened}>
    <summary class="button">More{further > 0 ? ` (${further})` : ''}</summary>
    {#if opened}<div class="sheet">
        {#if narrow}
          {@render spans()}
          {#if query.shape === 'rows'}{@render grouping()}{/if}
        {/if}
        {#if sections.length > 0}
          <label class="field">
            <span class="label">Section</span>
            <select
              class="value"
              value={query.sectionId === null ? '' : String(query.sectionId)}
              onchange={(event) => onchange({ section: value(event) })}
            >
              <option value="">Any section</option>
              {#each sections as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
            </select>
          </label>
        {/if}
        <label class="field">
          <span class="label">Status</span>
          <select
            class="value"
            value={query.statusId === null ? '' : String(query.statusId)}
            onchange={(event) => onchange({ status: value(event) })}
          >
            <option value="">Any</option>
            {#each choices.statuses as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
          </select>
        </label>
        <label class="field">
          <span class="label">Priority</span>
          <select
            class="value"
            value={query.priority ?? ''}
            onchange={(event) => onchange({ priority: value(event) })}
          >
            <option value="">Any</option>
            {#each ['low', 'ordinary', 'high', 'pressing'] as priority (priority)}<option>{priority}</option
              >{/each}
          </select>
        </label>
        <label class="field">
          <span class="label">Tag</span>
          <select class="value" value={query.tag} onchange={(event) => onchange({ tag: value(event) })}>
            <option value="">Any tag</option>
            {#each choices.tags as tag (tag)}<option>{tag}</option>{/each}
          </select>
        </label>
        <label class="field">
          <span class="label">From</span>
          <LaterDateField value={query.from} onchange={(from) => onchange({ from: from ?? '', due: '' })} />
        </label>
        <label class="field">
          <span class="label">Until</span>
          <LaterDateField
            value={query.until}
            onchange={(until) => onchange({ until: until ?? '', due: '' })}
          />
        </label>
        <label class="check"
          ><input
            type="checkbox"
            checked={query.recurring}
            onchange={(event) => onchange({ recurring: event.currentTarget.checked ? 'yes' : '' })}
          /> Recurring tasks only</label
        >
      </div>{/if}
  </details>
  <span class="gap"></span>
  {#if query.shape === 'rows' && !narrow}
    {@render grouping()}
    <details class="more wide">
      <summary class="button">Columns</summary>
      <div class="sheet">
        {#each Object.entries(TASK_COLUMNS) as [key, { label }] (key)}
          <label class="check"
            ><input
              type="checkbox"
              checked={columns.includes(key as ColumnKey)}
              onchange={(event) => turnColumn(key as ColumnKey, event.currentTarget.checked)}
            />
            {label}</label
          >
        {/each}
      </div>
    </details>
  {/if}
</search>

{#snippet spans()}
  <label class="field wide" class:set={query.due !== ''}>
    <span class="label">Due dates</span>
    <select
      class="value"
      value={query.due}
      onchange={(event) => onchange({ due: value(event), from: '', until: '' })}
    >
      {#each DUES as [key, label] (key)}<option value={key}>{label}</option>{/each}
    </select>
  </label>
  <label class="field wide" class:set={query.ownerId !== null}>
    <span class="label">Owner</span>
    <select
      class="value"
      value={query.ownerId === null ? '' : String(query.ownerId)}
      onchange={(event) => onchange({ owner: value(event) })}
    >
      <option value="">Anybody</option>
      <option value={String(me)}>Me</option>
      <option value="none">No owner</option>
      {#each choices.people.filter(({ id }) => id !== me) as { id, name } (id)}<option value={String(id)}
          >{name}</option
        >{/each}
    </select>
  </label>
  <label class="field wide" class:set={query.projectId !== null}>
    <span class="label">Project</span>
    <select
      class="value"
      value={query.projectId === null ? '' : String(query.projectId)}
      onchange={(event) => onchange({ project: value(event), section: '' })}
    >
      <option value="">Any project</option>
      <option value="none">No project</option>
      {#each choices.projects as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
    </select>
  </label>
{/snippet}
{#snippet grouping()}
  <label class="field wide" class:set={query.group !== null}>
    <span class="label">Group by</span>
    <select class="value" value={query.group ?? ''} onchange={(event) => onchange({ group: value(event) })}>
      {#each GROUPS.filter(([key]) => key !== 'section' || typeof query.projectId === 'number') as [key, label] (key)}<option
          value={key}>{label}</option
        >{/each}
    </select>
  </label>
{/snippet}

<style>
  .filters {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 10px;
    align-items: end;
    padding-bottom: 12px;
  }
  .filters select {
    max-width: 138px;
  }
  .text input {
    width: 150px;
  }
  .gap {
    flex: 1;
  }
  .more {
    position: relative;
  }
  .more > summary {
    list-style: none;
  }
  .more > div {
    position: absolute;
    z-index: 20;
    top: 36px;
    left: 0;
    display: grid;
    gap: 8px;
    min-width: 200px;
    padding: 12px 14px;
    box-shadow: 0 8px 24px rgb(0 0 0 / 12%);
  }
  .gap ~ .more > div {
    left: auto;
    right: 0;
  }
  .check {
    display: flex;
    gap: 8px;
    font-size: 13px;
    white-space: nowrap;
  }
  /* On a phone what narrows nothing waits behind “More”: the list comes first. */
  @media (max-width: 640px) {
    .filters:not(:has(> .more[open])) > .wide:not(.set) {
      display: none;
    }
  }
</style>
