<script lang="ts">
  import FileField from '../parts/FileField.svelte';
  import { many } from '$lib/core/many.ts';
  import type { Posted } from '$lib/ui/form/send.ts';
  import type { WeekSpec } from '$lib/core/calendar/spec.ts';
  import type { DayDraft } from '$lib/view/calendars.ts';

  /** Days from elsewhere: the bundled set of a country or region, or an ICS file. They join the draft; nothing is saved. */
  export interface Found {
    days: { date: string; name: string | null; intervals?: string[] }[];
    left: number;
    weeks: { week: WeekSpec; weeks: { from: string; week: WeekSpec }[] } | null;
  }
  interface Props {
    countries: readonly { code: string; name: string }[];
    year: number;
    /** Asks the server for days, or the parts of a country. */
    ask: <T>(query: string, body: unknown) => Promise<Posted<T> | null>;
    onfound: (days: DayDraft[], weeks: Found['weeks'], words: string) => void;
  }

  let { countries, year, ask, onfound }: Props = $props();
  let country = $state('');
  let region = $state('');
  let regions = $state<{ code: string; name: string }[]>([]);
  let fromYear = $derived(year);
  let toYear = $derived(year + 2);
  let error = $state('');
  let busy = $state(false);

  async function chooseCountry() {
    region = '';
    if (!country) return void (regions = []);
    const said = await ask<{ regions: { code: string; name: string }[] }>(`?country=${country}`, {});
    if (said?.ok) regions = said.answer.regions;
    else error = said?.message ?? '';
  }

  async function take(query: string, body: unknown, from: string) {
    busy = true;
    error = '';
    const said = await ask<Found>(query, body);
    busy = false;
    if (!said?.ok) return void (error = said?.message ?? '');
    const { days, left, weeks } = said.answer;
    const words = `${many(days.length, 'day')} from ${from}${left > 0 ? `; ${many(left, 'event has', 'events have')} a time of day or no date and close nothing` : ''}`;
    onfound(
      days.map(({ date, name, intervals }) => ({ date, name, intervals: intervals ?? [] })),
      weeks,
      words
    );
  }

  function takeSet() {
    const names = [...regions, ...countries];
    const code = region || country;
    const from = names.find((one) => one.code === code)?.name ?? code;
    void take('', { region: code, fromYear, toYear }, from);
  }

  async function takeFile(file: File | null) {
    if (file) await take(`?year=${year}`, new Blob([file], { type: 'text/calendar' }), file.name);
  }
</script>

<div class="grid gap-3">
  {#if error}<p class="fault" role="alert">{error}</p>{/if}
  <div class="row">
    <label
      >Country
      <select class="value" bind:value={country} onchange={chooseCountry}>
        <option value="">Choose</option>
        {#each countries as { code, name } (code)}<option value={code}>{name}</option>{/each}
      </select></label
    >
    {#if regions.length > 0}
      <label
        >Region
        <select class="value" bind:value={region}>
          <option value="">Whole country</option>
          {#each regions as { code, name } (code)}<option value={code}>{name}</option>{/each}
        </select></label
      >
    {/if}
    <label>from <input class="value years" type="number" min="1950" max="2150" bind:value={fromYear} /></label
    >
    <label>to <input class="value years" type="number" min="1950" max="2150" bind:value={toYear} /></label>
    <button type="button" class="button" disabled={!country || busy} onclick={takeSet}>Add holidays</button>
  </div>
  <FileField
    label="or a calendar file (.ics)"
    accept=".ics,text/calendar"
    disabled={busy}
    onchange={(file) => void takeFile(file)}
  />
</div>

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    align-items: end;
    gap: 8px 12px;
  }
  label {
    display: grid;
    gap: 3px;
    font-size: 12.5px;
    color: var(--ink-2);
  }
  .years {
    width: 84px;
  }
</style>
