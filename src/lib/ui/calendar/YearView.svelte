<script lang="ts">
  import { yearOf, type CalendarDraft } from '$lib/view/calendars.ts';

  /** A year at a glance. Each day says what it is; holidays and other hours are drawn apart from closed weekdays by shape. */
  interface Props {
    draft: CalendarDraft;
    year: number;
    chosen: string | null;
    onchoose: ((date: string) => void) | null;
  }

  let { draft, year, chosen, onchoose }: Props = $props();
  const months = $derived(yearOf(draft, year));
</script>

<div class="year">
  {#each months as month (month.name)}
    <section aria-label="{month.name} {year}">
      <h3>{month.name}</h3>
      <div class="grid7" aria-hidden="true">
        {#each ['M', 'T', 'W', 'T', 'F', 'S', 'S'] as letter, i (i)}<span class="head">{letter}</span>{/each}
      </div>
      <div class="grid7">
        {#each { length: month.lead } as _, i (i)}<span></span>{/each}
        {#each month.days as day (day.date)}
          <button
            type="button"
            class="day {day.kind.replace(' ', '-')}"
            class:chosen={chosen === day.date}
            aria-pressed={chosen === day.date}
            disabled={!onchoose}
            title={day.words}
            aria-label="{day.dayOfMonth} {month.name}: {day.words}"
            onclick={() => onchoose?.(day.date)}>{day.dayOfMonth}</button
          >
        {/each}
      </div>
    </section>
  {/each}
</div>
<p class="quiet key">
  <span class="day open">1</span> open <span class="day closed">2</span> closed every week
  <span class="day holiday">3</span> closed day <span class="day other-hours">4</span> other hours
</p>

<style>
  .year {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(188px, 1fr));
    gap: 14px 22px;
  }
  h3 {
    font-weight: 600;
    font-size: 13px;
    margin-bottom: 3px;
  }
  .grid7 {
    display: grid;
    grid-template-columns: repeat(7, 1fr);
    gap: 1px;
  }
  .head {
    text-align: center;
    font-size: 11px;
    color: var(--ink-3);
  }
  .day {
    height: 24px;
    min-width: 24px;
    font-size: 12px;
    display: inline-grid;
    place-content: center;
    border-radius: 4px;
    border: 1px solid transparent;
    color: var(--ink);
  }
  button.day:not(:disabled) {
    cursor: pointer;
  }
  button.day:not(:disabled):hover {
    border-color: var(--ink-3);
  }
  .open {
    background: var(--lit);
  }
  .closed {
    color: var(--ink-2);
  }
  .holiday {
    background: var(--slate-wash);
    border-color: var(--slate);
    font-weight: 650;
  }
  .other-hours {
    background: linear-gradient(to top, var(--dim) 45%, var(--lit) 45%);
    border-color: var(--lit-edge);
    font-weight: 600;
  }
  .chosen {
    outline: 2px solid var(--brass);
    outline-offset: 1px;
  }
  .key {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 8px;
    margin-top: 12px;
  }
  /* Where the colours are the reader's own: open days are framed, closed days of their own have a double frame. */
  @media (forced-colors: active) {
    .open {
      border-color: CanvasText;
    }
    .holiday {
      border: 3px double CanvasText;
    }
    .other-hours {
      border: 1px dashed CanvasText;
    }
  }
</style>
