<script lang="ts">
  import { askJson } from '$lib/ui/form/send.ts';
  import { enhance } from '$app/forms';
  import { askBeforeLeaving } from '$lib/ui/form/leaving.ts';
  import { getContext } from 'svelte';
  import AddDays, { type Found } from '$lib/ui/calendar/AddDays.svelte';
  import WeekEditor from '$lib/ui/calendar/WeekEditor.svelte';
  import YearView from '$lib/ui/calendar/YearView.svelte';
  import { submitDone, type Done } from '$lib/ui/form/submit.ts';
  import { differences, withDays, type CalendarDraft, type DayDraft } from '$lib/view/calendars.ts';
  import type { EffectView } from '$lib/view/effects.ts';
  import { askEffect } from '../../ask-effect.ts';
  import ChosenDay from './ChosenDay.svelte';
  import DraftBand from './DraftBand.svelte';
  import type { ActionData, PageData } from './$types';
  import DateField from '$lib/ui/form/date/DateField.svelte';

  let { data, form }: { data: PageData; form: ActionData } = $props();
  const done = getContext<(done: Done) => void>('done');

  // The draft starts from what is saved, and again when that changes under it; the page’s data come anew with the clock, and the same
  // ones must not take away what somebody is writing.
  const savedText = $derived(JSON.stringify(data.saved));
  let draft = $derived(JSON.parse(savedText) as CalendarDraft);
  let year = $derived(data.year);
  let chosen = $state<string | null>(null);
  let said = $state('');
  let moved = $state<EffectView | null>(null);
  let movedError = $state('');
  let newWeekFrom = $state('');

  const changes = $derived(differences(data.saved, draft));
  const dirty = $derived(changes.length > 0);
  const chosenDay = $derived(draft.days.find(({ date }) => date === chosen));

  // What a change moves is asked for as soon as it is made; an answer that has been overtaken is dropped.
  $effect(() => {
    moved = null;
    movedError = '';
    if (!dirty) return;
    return askEffect(`/calendars/${data.id}/effect`, draft, (answer) => {
      if ('moved' in answer) moved = answer.moved;
      else movedError = answer.error;
    });
  });

  askBeforeLeaving(() => dirty, 'Unsaved changes. Leave the page?');

  function setDay(date: string, patch: Partial<DayDraft> | null) {
    const others = draft.days.filter((day) => day.date !== date);
    const before = draft.days.find((day) => day.date === date) ?? { date, name: null, intervals: [] };
    const days = patch ? [...others, { ...before, ...patch }] : others;
    draft = { ...draft, days: days.sort((a, b) => (a.date < b.date ? -1 : 1)) };
  }

  function takeFound(days: DayDraft[], weeks: Found['weeks'], words: string) {
    const merged = withDays(draft.days, days);
    draft = { ...draft, ...(weeks ?? {}), days: merged };
    said = words;
  }

  function addWeek() {
    if (!newWeekFrom || draft.weeks.some(({ from }) => from === newWeekFrom)) return;
    const last = draft.weeks.findLast(({ from }) => from < newWeekFrom)?.week ?? draft.week;
    const weeks = [...draft.weeks, { from: newWeekFrom, week: structuredClone($state.snapshot(last)) }];
    draft = { ...draft, weeks: weeks.sort((a, b) => (a.from < b.from ? -1 : 1)) };
    newWeekFrom = '';
  }

  const ask = <T,>(query: string, body: unknown) =>
    askJson<T>(`/calendars/${data.id}/holidays${query}`, body);
</script>

<svelte:head><title>{data.saved.name} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/calendars">Calendars</a></p>
<div class="flex flex-wrap items-center gap-3">
  {#if data.mayKeep}
    <h1 class="sr">{draft.name}</h1>
    <label class="sr" for="calendar-name">Name of the calendar</label>
    <input
      id="calendar-name"
      class="value name"
      value={draft.name}
      onchange={(event) => (draft = { ...draft, name: event.currentTarget.value })}
    />
  {:else}<h1>{data.saved.name}</h1>{/if}
  <a class="button ml-auto" href="/calendars/{data.id}/calendar.ics" download>Export calendar (.ics)</a>
  {#if data.mayKeep && data.usedBy.length === 0}
    <form method="POST" action="?/remove" use:enhance={submitDone(done)}>
      <button class="button">Remove calendar</button>
    </form>
  {/if}
</div>
<p class="quiet mt-1 mb-3">
  {data.usedBy.length > 0 ? `Used by ${data.usedBy.join(', ')}.` : 'Not used yet.'}
</p>

{#if form?.message}<p class="band brick mb-3" role="alert">
    <b>Not saved</b><span>{form.message}</span>
  </p>{/if}

{#if dirty}
  <DraftBand
    {draft}
    {changes}
    {moved}
    fault={movedError}
    onforget={() => (draft = JSON.parse(savedText) as CalendarDraft)}
  />
{/if}

<div class="columns">
  <section>
    <div class="mb-2 flex items-center gap-2">
      <button class="button plain" aria-label="Previous year" onclick={() => year--}>‹</button>
      <h2>{year}</h2>
      <button class="button plain" aria-label="Next year" onclick={() => year++}>›</button>
      <span class="quiet">{data.mayKeep ? 'Choose a day to close it or change its hours' : ''}</span>
    </div>
    <YearView {draft} {year} {chosen} onchoose={data.mayKeep ? (date) => (chosen = date) : null} />
  </section>
  <section>
    {#if chosen && data.mayKeep}<ChosenDay
        date={chosen}
        day={chosenDay}
        onset={(patch) => setDay(chosen!, patch)}
      />{/if}

    <h2 class="mb-1">Weeks</h2>
    <div class="weeks">
      <WeekEditor
        week={draft.week}
        title="First week"
        readonly={!data.mayKeep}
        onchange={(week) => (draft = { ...draft, week })}
      />
      {#each draft.weeks as later, i (later.from)}
        <WeekEditor
          week={later.week}
          title="from {later.from}"
          readonly={!data.mayKeep}
          onchange={(week) =>
            (draft = { ...draft, weeks: draft.weeks.map((one, j) => (j === i ? { ...one, week } : one)) })}
          onremove={() => (draft = { ...draft, weeks: draft.weeks.filter((_, j) => j !== i) })}
        />
      {/each}
    </div>
    {#if data.mayKeep}
      <p class="mt-2 flex flex-wrap items-end gap-2">
        <label class="from"
          >Add a week from <DateField
            live
            label="Add a week from"
            value={newWeekFrom}
            onchange={(day) => (newWeekFrom = day ?? '')}
            onfault={() => (newWeekFrom = '')}
          /></label
        >
        <button class="button" disabled={!newWeekFrom} onclick={addWeek}>Add week</button>
      </p>

      <h2 class="mt-5 mb-2">Import holidays</h2>
      <AddDays countries={data.countries} year={data.year} {ask} onfound={takeFound} />
      {#if said}<p class="quiet mt-2" role="status">{said}</p>{/if}
    {/if}
  </section>
</div>

<style>
  .name {
    font:
      650 21px 'Bricolage Grotesque Variable',
      sans-serif;
    min-width: min(420px, 100%);
  }
  .columns {
    display: grid;
    grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
    gap: 28px;
  }
  .weeks {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
    gap: 14px 18px;
  }
  .from {
    display: grid;
    gap: 3px;
    font-size: 12.5px;
    color: var(--ink-2);
  }
  @media (max-width: 1100px) {
    .columns {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
