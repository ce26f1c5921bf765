<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { RoundSheet } from '$lib/view/desk.ts';
  import DayBar from './DayBar.svelte';
  import HourAxis from './HourAxis.svelte';

  /** The days of whoever is in a round, with the keys on them that would put the task there. */
  let { days, hours }: Pick<RoundSheet, 'days' | 'hours'> = $props();
</script>

<section aria-labelledby="round-days">
  <h2 id="round-days">Your days, with the keys that lead there</h2>
  <div class="row axis"><span></span><span></span><HourAxis {hours} /><span></span></div>
  <ul>
    {#each days as day, i (day.date)}
      <li class="row" class:closed={day.closed && day.count === 0 && day.keys.length === 0}>
        <span class="keys"
          >{#each day.keys as key (key)}<kbd>{key}</kbd>{/each}</span
        >
        <b class="day">{i === 0 ? 'Today' : day.words}</b>
        <DayBar {hours} lit={day.lit} away={day.away} thin={day.closed} />
        <span class="quiet"
          >{[day.count > 0 ? many(day.count, 'task') : '', ...day.notes].filter(Boolean).join(' · ') ||
            (day.closed ? 'no work' : 'nothing yet')}</span
        >
      </li>
    {/each}
  </ul>
</section>

<style>
  section {
    margin-top: 18px;
  }
  h2 {
    font-size: 14px;
    margin-bottom: 4px;
  }
  .row {
    display: grid;
    grid-template-columns: 76px 56px minmax(0, 1fr) minmax(96px, 170px);
    gap: 10px;
    align-items: center;
    min-height: 24px;
  }
  .axis {
    min-height: 16px;
  }
  .keys {
    display: flex;
    gap: 3px;
    justify-content: flex-end;
  }
  kbd {
    padding: 0 5px;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
    font: 600 11px/18px inherit;
  }
  .day {
    font-size: 13px;
    font-weight: 600;
    white-space: nowrap;
  }
  .closed {
    min-height: 14px;
    font-size: 11.5px;
  }
  .closed .day {
    font-size: 11.5px;
    font-weight: 450;
    color: var(--ink-3);
  }
  @media (max-width: 900px) {
    .row {
      grid-template-columns: 62px 50px minmax(0, 1fr);
      gap: 6px;
    }
    .row > :nth-child(4) {
      grid-column: 2 / -1;
    }
  }
</style>
