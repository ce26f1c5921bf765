<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import Effect from '$lib/ui/effect/Effect.svelte';
  import Looking from '$lib/ui/effect/Looking.svelte';
  import { whileUnderWay } from '$lib/ui/frame/notices.svelte.ts';
  import type { EffectView } from '$lib/view/effects.ts';
  import type { TaskChoices } from '$lib/view/tasks.ts';
  import DateField from '../form/date/DateField.svelte';

  export interface BulkPreviewView {
    chosen: number;
    changes: number;
    left: { reason: string; count: number; names: string[] }[];
    effect: EffectView;
  }

  /** What is done to the tasks that were chosen: said first, then done. */
  interface Props {
    count: number;
    /** How many the whole list holds. */
    total: number;
    /** Everything that the list holds is meant, seen or not. */
    all: boolean;
    choices: TaskChoices;
    onall: () => void;
    onclear: () => void;
    onpreview: (
      change: unknown,
      onPart: (part: number) => void
    ) => Promise<BulkPreviewView | { message: string }>;
    onapply: (change: unknown, stamp: string | null) => Promise<boolean>;
  }

  let { count, total, all, choices, onall, onclear, onpreview, onapply }: Props = $props();

  const ACTS = [
    ['due', 'Set due date'],
    ['shift', 'Move the due date by'],
    ['owner', 'Change owner'],
    ['status', 'Set the status to'],
    ['priority', 'Set the priority to'],
    ['project', 'Move to'],
    ['tag', 'Add tag'],
    ['untag', 'Remove tag'],
    ['park', 'Park until'],
    ['archive', 'Archive'],
    ['bin', 'Move to the bin'],
    ['restore', 'Return to the list']
  ] as const;

  let act: (typeof ACTS)[number][0] = $state('due');
  let date = $state('');
  let n = $state(1);
  let unit: 'day' | 'workday' = $state('workday');
  let chosenId = $state('');
  let word = $state('');
  let preview: BulkPreviewView | null = $state(null);
  let fault = $state('');
  let busy = $state(false);
  let looking = $state(false);
  let part: number | null = $state(null);

  const change = $derived.by(() => {
    if (act === 'due' || act === 'park') return { act, date: date || null };
    if (act === 'shift') return { act, n, unit };
    if (act === 'owner' || act === 'status' || act === 'project')
      return { act, id: Number(chosenId) || null };
    if (act === 'priority') return { act, priority: word || 'high' };
    if (act === 'tag' || act === 'untag') return { act, name: word };
    return { act };
  });

  async function look() {
    busy = looking = true;
    fault = '';
    part = null;
    const answer = await onpreview(change, (come) => (part = come));
    busy = looking = false;
    if ('message' in answer) fault = answer.message;
    else preview = answer;
  }

  async function apply() {
    busy = true;
    const done = await whileUnderWay('Changing the tasks…', onapply(change, preview?.effect.stamp ?? null));
    busy = false;
    if (done) preview = null;
    // What kept it from being done may have been that it would do something else now.
    else await look();
  }

  const turn = () => {
    preview = null;
    fault = '';
    chosenId = act === 'status' ? String(choices.statuses[0]?.id ?? '') : '';
    word = act === 'priority' ? 'high' : '';
  };
</script>

<section class="bar sheet no-print" aria-label="Change the chosen tasks">
  <p class="head">
    <b>{(all ? total : count).toLocaleString('en')} {count === 1 && !all ? 'task' : 'tasks'} chosen</b>
    {#if !all && total > count}<button class="button plain" onclick={onall}
        >Choose all {total.toLocaleString('en')} in this list</button
      >{/if}
    <button class="button plain" onclick={onclear}>Choose none</button>
  </p>
  <div class="row">
    <select class="value" aria-label="What to do" bind:value={act} onchange={turn}>
      {#each ACTS as [value, label] (value)}<option {value}>{label}</option>{/each}
    </select>
    {#if act === 'due' || act === 'park'}
      <DateField
        live
        label={act === 'due' ? 'New date (empty: no date)' : 'Review date'}
        value={date}
        onchange={(day) => {
          date = day ?? '';
          preview = null;
        }}
        onfault={(typed) => {
          date = typed;
          preview = null;
        }}
      />
    {:else if act === 'shift'}
      <input
        class="value n"
        type="number"
        aria-label="By how many"
        bind:value={n}
        oninput={() => (preview = null)}
      />
      <select
        class="value"
        aria-label="Days or working days"
        bind:value={unit}
        onchange={() => (preview = null)}
      >
        <option value="workday">working days</option><option value="day">days</option>
      </select>
    {:else if act === 'owner'}
      <select class="value" aria-label="To whom" bind:value={chosenId} onchange={() => (preview = null)}>
        <option value="">nobody</option>
        {#each choices.people as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
      </select>
    {:else if act === 'status'}
      <select class="value" aria-label="Which status" bind:value={chosenId} onchange={() => (preview = null)}>
        {#each choices.statuses as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
      </select>
    {:else if act === 'project'}
      <select
        class="value"
        aria-label="Which project"
        bind:value={chosenId}
        onchange={() => (preview = null)}
      >
        <option value="">no project</option>
        {#each choices.projects as { id, name } (id)}<option value={String(id)}>{name}</option>{/each}
      </select>
    {:else if act === 'priority'}
      <select class="value" aria-label="Which priority" bind:value={word} onchange={() => (preview = null)}>
        {#each ['low', 'ordinary', 'high', 'pressing'] as priority (priority)}<option>{priority}</option
          >{/each}
      </select>
    {:else if act === 'tag' || act === 'untag'}
      <input class="value" aria-label="Which tag" bind:value={word} oninput={() => (preview = null)} />
    {/if}
    <button class="button" disabled={busy} onclick={look}>Preview</button>
    {#if preview}
      <button class="button main" disabled={busy || preview.changes === 0} onclick={apply}
        >Change {many(preview.changes, 'task')}</button
      >
    {/if}
  </div>
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
  {#if looking}<Looking {part} />{/if}
  {#if preview && !looking}
    <div class="preview">
      {#each preview.left as { reason, count: number, names } (reason)}
        <p class="quiet">
          {number} not changed: {reason} ({names.join(', ')}{number > names.length ? ', …' : ''})
        </p>
      {/each}
      <Effect effect={preview.effect} />
    </div>
  {/if}
</section>

<style>
  .bar {
    position: sticky;
    top: 0;
    z-index: 6;
    padding: 10px 14px;
    margin-bottom: 8px;
    display: grid;
    gap: 8px;
  }
  .head,
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
  .n {
    width: 76px;
  }
  .preview {
    max-height: 300px;
    overflow: auto;
  }
</style>
