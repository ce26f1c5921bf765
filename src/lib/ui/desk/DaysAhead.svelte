<script lang="ts">
  import { SvelteSet } from 'svelte/reactivity';
  import { groupBy } from '$lib/core/group-by.ts';
  import { many } from '$lib/core/many.ts';
  import type { DeskBell, DeskDayLine, DeskRows, DeskView, DeskWeek } from '$lib/view/desk.ts';
  import DayBar from './DayBar.svelte';
  import DayBells from './DayBells.svelte';
  import MoreRows from './MoreRows.svelte';
  import { carriedTo, dayTarget } from './carried.ts';
  import type { Placer } from './placer.svelte.ts';

  /** The days ahead, a line for each; a press opens one in its place, and tasks are let go on it. */
  interface Props {
    desk: DeskView;
    bells: readonly DeskBell[];
    placer: Placer | null;
    read: (query: string, from: number) => Promise<DeskRows | null>;
  }

  let { desk, bells, placer, read }: Props = $props();
  const FOLDS = 'early-bell:desk-open';
  const opened = new SvelteSet<string>(kept());

  function kept(): string[] {
    try {
      return (JSON.parse(globalThis.localStorage?.getItem(FOLDS) ?? '[]') as string[]).map(String);
    } catch {
      // What another program left there opens nothing.
      return [];
    }
  }

  function turn(key: string) {
    if (!opened.delete(key)) opened.add(key);
    globalThis.localStorage?.setItem(FOLDS, JSON.stringify([...opened].slice(-30)));
  }

  const byDate = $derived(groupBy(bells, ({ date }) => date));
  const bellsOn = (date: string) => byDate.get(date) ?? [];

  /** Closed days that hold nothing stand together in one thin line. */
  function lines({ days }: DeskWeek): { key: string; days: DeskDayLine[] }[] {
    const found: { key: string; days: DeskDayLine[] }[] = [];
    let isThin = false;
    for (const day of days) {
      const thin = day.closed && day.count === 0 && bellsOn(day.date).length === 0;
      const before = found[found.length - 1];
      if (thin && isThin && before) before.days.push(day);
      else found.push({ key: day.date, days: [day] });
      isThin = thin;
    }
    return found;
  }

  const isThin = (days: readonly DeskDayLine[]) =>
    days.length > 1 || (days[0]!.closed && days[0]!.count === 0 && bellsOn(days[0]!.date).length === 0);

  function over(event: DragEvent, date: string) {
    if (!placer?.dragged) return;
    event.preventDefault();
    const { words } = carriedTo([placer.dragged], dayTarget(date, desk.today.date), desk.today.date);
    placer.over = { key: date, words };
  }

  function drop(event: DragEvent, date: string) {
    event.preventDefault();
    const task = placer?.dragged;
    if (placer) placer.dragged = placer.over = null;
    if (task) void placer?.place([task], dayTarget(date, desk.today.date));
  }

  const noDayWords = (count: number) =>
    count === 0 ? '' : `, ${count === 1 ? 'one has no day yet' : `${count} have no day yet`}`;
</script>

<section aria-labelledby="ahead">
  <h2 id="ahead">Days ahead</h2>
  {#each desk.weeks as week (week.span)}
    {#if week.days.length > 0}
      <h3>
        {week.span === 'rest' ? 'Rest of the week' : 'Week after'}
        <span class="quiet"
          >{week.count === 0 ? 'nothing' : many(week.count, 'task')}{noDayWords(week.noDay.count)}</span
        >
      </h3>
      {#if week.noDay.count > 0}
        <div class="inside">
          <MoreRows query="span={week.span}" label="Without a day yet" {placer} {read} stamp={desk} />
        </div>
      {/if}
      <ul class="days">
        {#each lines(week) as { key, days } (key)}
          {#if isThin(days)}
            <li class="line thin">
              <span class="date">{days.map(({ words }) => words).join(', ')}</span>
              <span class="quiet"
                >closed{days
                  .flatMap(({ notes }) => notes)
                  .map((note) => `, ${note}`)
                  .join('')}</span
              >
              <span class="hours"><DayBar hours={desk.hours} lit={[]} thin /></span>
            </li>
          {:else}
            {@const day = days[0]!}
            <li
              class="line"
              class:is-over={placer?.over?.key === day.date}
              ondragover={(event) => over(event, day.date)}
              ondragleave={() => placer && (placer.over = null)}
              ondrop={(event) => drop(event, day.date)}
            >
              <button class="open" aria-expanded={opened.has(day.date)} onclick={() => turn(day.date)}>
                <span class="date">{day.words}</span>
                <span class="number">{day.count}</span>
                <span class="first" class:heavy={day.first?.heavy}
                  >{#if day.first}{day.first.name}{#if day.count > 1}<span class="quiet"
                        >{` and ${day.count - 1} more`}</span
                      >{/if}{:else}<span class="quiet">nothing planned or due</span>{/if}
                  {#each day.notes as note (note)}<span class="note"> · {note}</span>{/each}</span
                >
              </button>
              <span class="hours"
                ><DayBar hours={desk.hours} lit={day.lit} away={day.away} bells={bellsOn(day.date)} /></span
              >
            </li>
            {#if opened.has(day.date)}
              <li class="inside">
                {#if day.count > 0}<MoreRows
                    query="day={day.date}"
                    label="Tasks of {day.words}"
                    {placer}
                    {read}
                    stamp={desk}
                  />{:else}<p class="quiet">Nothing is planned or due on it.</p>{/if}
                <DayBells bells={bellsOn(day.date)} what="notices come on {day.words}" />
              </li>
            {/if}
          {/if}
        {/each}
      </ul>
    {/if}
  {/each}
  {#if desk.further.count > 0}
    <h3>
      Further out <span class="quiet"
        >{many(desk.further.count, 'task')} by month{noDayWords(desk.further.noDay.count)}</span
      >
    </h3>
    {#if desk.further.noDay.count > 0}
      <div class="inside">
        <MoreRows query="span=further" label="Further out, without a day" {placer} {read} stamp={desk} />
      </div>
    {/if}
    <ul class="days">
      {#each desk.further.months as month (month.month)}
        <li class="line">
          <button class="open" aria-expanded={opened.has(month.month)} onclick={() => turn(month.month)}>
            <span class="date">{month.words}</span>
            <span class="number">{month.count}</span>
            <span class="first" class:heavy={month.first?.heavy}
              >{month.first?.name ?? ''}{#if month.count > 1}<span class="quiet"
                  >{` and ${month.count - 1} more`}</span
                >{/if}</span
            >
          </button>
          <span class="hours" aria-hidden="true">
            <span class="month">
              {#each month.working as [from, until] (from)}<span
                  class="run"
                  style="left:{((from - 1) / month.days) * 100}%;width:{((until - from + 1) / month.days) *
                    100}%"
                ></span>{/each}
              {#each month.marks.slice(0, 31) as { day } (day)}<span
                  class="stroke"
                  style="left:{((day - 0.5) / month.days) * 100}%"
                ></span>{/each}
            </span>
          </span>
        </li>
        {#if opened.has(month.month)}
          <li class="inside">
            <MoreRows
              query="month={month.month}"
              label="Tasks of {month.words}"
              {placer}
              {read}
              stamp={desk}
            />
          </li>
        {/if}
      {/each}
    </ul>
  {/if}
</section>

<style>
  h3 {
    font-weight: 600;
    font-size: 13.5px;
    margin-top: 8px;
  }
  .line {
    display: grid;
    grid-template-columns: minmax(0, 1fr) var(--bar-width);
    gap: 0 12px;
    align-items: center;
    border-bottom: 1px solid var(--line-soft);
  }
  .thin {
    grid-template-columns: 146px minmax(0, 1fr) var(--bar-width);
    min-height: 22px;
  }
  .thin .date {
    font-weight: 450;
    font-size: 12px;
    color: var(--ink-2);
  }
  .is-over {
    background: var(--lit);
    box-shadow: inset 3px 0 0 var(--brass);
  }
  .open {
    display: grid;
    grid-template-columns: 118px 28px minmax(0, 1fr);
    align-items: baseline;
    min-height: 30px;
    padding: 4px 0;
    text-align: left;
    cursor: pointer;
  }
  .open:hover .first {
    text-decoration: underline;
    text-decoration-color: var(--line);
  }
  .date {
    font-weight: 650;
  }
  .number {
    font-weight: 600;
  }
  .first {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .heavy {
    font-weight: 650;
  }
  .note {
    color: var(--slate);
    font-weight: 450;
  }
  .inside {
    padding: 2px 0 6px 14px;
    border-left: 3px solid var(--lit-edge);
    margin-left: 2px;
  }
  .month {
    position: relative;
    display: block;
    height: 16px;
    border-radius: 3px;
    background: var(--dim);
  }
  .run {
    position: absolute;
    inset-block: 0;
    background: var(--lit);
  }
  .stroke {
    position: absolute;
    inset-block: 1px;
    width: 2px;
    background: var(--ink);
  }
  @media (max-width: 900px) {
    .line {
      grid-template-columns: minmax(0, 1fr);
      padding-bottom: 5px;
    }
    .thin {
      grid-template-columns: auto minmax(0, 1fr);
      gap: 0 8px;
    }
    .thin .hours {
      display: none;
    }
    .open {
      min-height: 44px;
      grid-template-columns: 84px 24px minmax(0, 1fr);
      align-items: center;
    }
    .first {
      white-space: normal;
    }
  }
</style>
