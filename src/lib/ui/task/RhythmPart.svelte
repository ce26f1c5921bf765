<script lang="ts">
  import { CLOSED_DAY_RULES } from '$lib/core/ring/lead.ts';
  import Field from '$lib/ui/form/Field.svelte';
  import type { TaskFormView } from '$lib/view/tasks.ts';

  /** How a task comes back after it is finished, or on its dates. */
  interface Props {
    draft: TaskFormView;
    error?: string;
    /** When it comes back, in words. */
    nextRound: string | null;
  }

  let { draft = $bindable(), error, nextRound }: Props = $props();
  const kind = $derived(draft.rhythm === null ? 'none' : 'rrule' in draft.rhythm ? 'rule' : 'every');

  const UNITS = { day: 'days', week: 'weeks', month: 'months', workday: 'working days' } as const;
  const FROM = {
    due: 'on the next date in the series',
    finish: 'counted from the finish',
    calendar: 'on every date, even if not finished'
  } as const;
  const CLOSED: Record<(typeof CLOSED_DAY_RULES)[number], string> = {
    'as-is': 'stays on a closed day',
    earlier: 'moves earlier',
    later: 'moves later',
    onward: 'moves onward',
    nearest: 'moves to the nearest working day',
    'later-in-month': 'moves later, within its month',
    'earlier-in-month': 'moves earlier, within its month',
    skip: 'skips that date'
  };

  function choose(next: string) {
    if (next === 'none') draft.rhythm = null;
    else draft.rhythm = next === 'rule' ? { rrule: 'FREQ=MONTHLY;BYDAY=-1FR' } : { n: 1, unit: 'week' };
  }
</script>

<div class="part">
  <div class="pair">
    <Field label="Repeats" {error}>
      {#snippet control(attributes)}
        <select
          class="value"
          value={kind}
          onchange={(event) => choose(event.currentTarget.value)}
          {...attributes}
        >
          <option value="none">never</option>
          <option value="every">every …</option>
          <option value="rule">by a recurrence rule (RFC 5545)</option>
        </select>
      {/snippet}
    </Field>
    {#if draft.rhythm && 'n' in draft.rhythm}
      <div class="field">
        <span class="label" id="every">Every</span>
        <span class="row">
          <input
            class="value n"
            type="number"
            min="1"
            max="1000"
            aria-label="How many"
            bind:value={draft.rhythm.n}
          />
          <select class="value" aria-label="Of what" bind:value={draft.rhythm.unit}>
            {#each Object.entries(UNITS) as [unit, words] (unit)}<option value={unit}>{words}</option>{/each}
          </select>
        </span>
      </div>
    {:else if draft.rhythm}
      <Field
        label="Recurrence rule"
        hint="For example FREQ=MONTHLY;BYDAY=-1FR: the last Friday of each month."
      >
        {#snippet control(attributes)}
          {#if draft.rhythm && 'rrule' in draft.rhythm}<input
              class="value"
              bind:value={draft.rhythm.rrule}
              {...attributes}
            />{/if}
        {/snippet}
      </Field>
    {/if}
    {#if draft.rhythm}
      <Field label="Next due date">
        {#snippet control(attributes)}
          <select class="value" bind:value={draft.renewFrom} {...attributes}>
            {#each Object.entries(FROM) as [from, words] (from)}<option value={from}>{words}</option>{/each}
          </select>
        {/snippet}
      </Field>
      <Field label="If that day is closed, it">
        {#snippet control(attributes)}
          <select class="value" bind:value={draft.renewClosedDay} {...attributes}>
            {#each CLOSED_DAY_RULES as rule (rule)}<option value={rule}>{CLOSED[rule]}</option>{/each}
          </select>
        {/snippet}
      </Field>
    {/if}
  </div>
  {#if draft.rhythm}
    <label class="check"
      ><input type="checkbox" bind:checked={draft.renewCopy} /> Keep a finished copy each time</label
    >
    {#if nextRound}<p class="quiet">{nextRound}</p>{/if}
  {/if}
</div>

<style>
  .part {
    display: grid;
    gap: 10px;
  }
  .pair {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
    gap: 12px 16px;
  }
  .row {
    display: flex;
    gap: 6px;
  }
  .n {
    width: 72px;
  }
  .check {
    display: flex;
    gap: 8px;
    align-items: baseline;
    font-size: 13px;
  }
</style>
