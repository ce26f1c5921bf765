<script lang="ts">
  import { groupBy } from '$lib/core/group-by.ts';
  import type { ToldLine, ToldWeek } from '$lib/view/told.ts';
  import BellMark from '$lib/ui/bell/BellMark.svelte';

  /** What comes to somebody in the next seven days, day by day, with why. */
  let { week }: { week: ToldWeek } = $props();
  const days = $derived([...groupBy(week.lines, ({ date }) => date)]);
  const markOf = ({ kind }: ToldLine) => (kind === 'digest' ? 'held' : kind);
</script>

{#if week.count === 0}<p class="quiet">Nothing comes to you in the next seven days.</p>{/if}
{#each days as [date, lines] (date)}
  <section>
    <h3>{lines[0]!.day}</h3>
    <ul>
      {#each lines as line (line.key + line.atMs)}
        <li>
          <details>
            <summary>
              <span class="time">{line.time}</span>
              <svg viewBox="-8 -8 16 16" width="16" height="16" aria-hidden="true"
                ><BellMark kind={markOf(line)} /></svg
              >
              <span class="what"
                >{line.kind === 'digest' ? `Digest “${line.what}”` : line.what}<span class="quiet block"
                  >{line.rule ? `${line.rule} · ` : ''}{line.by}</span
                ></span
              >
            </summary>
            {#each line.why as why, i (i)}<p class="quiet">{why}</p>{/each}
            {#if line.taskId !== null}<p><a href="/tasks/{line.taskId}">The task</a></p>{/if}
          </details>
        </li>
      {/each}
    </ul>
  </section>
{/each}
{#if week.count > week.lines.length}<p class="quiet">
    and {week.count - week.lines.length} more after these.
  </p>{/if}

<style>
  h3 {
    font-size: 13px;
    margin: 10px 0 2px;
  }
  li {
    border-top: 1px solid var(--line-soft);
  }
  summary {
    display: grid;
    grid-template-columns: 44px 18px minmax(0, 1fr);
    gap: 6px;
    align-items: start;
    padding: 5px 0;
    min-height: 28px;
    cursor: pointer;
    list-style: none;
  }
  .time {
    font-variant-numeric: tabular-nums;
  }
  .what {
    overflow-wrap: anywhere;
  }
  details p {
    margin: 0 0 4px 68px;
    font-size: 12.5px;
  }
  @media (max-width: 900px) {
    summary {
      min-height: 44px;
    }
  }
</style>
