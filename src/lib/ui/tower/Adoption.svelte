<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { AdoptionView } from '$lib/view/desk.ts';

  /** Whose Desk is not kept: what waits to be placed for too long, and who does not look. */
  let { adoption }: { adoption: AdoptionView } = $props();
  const SHOWN = 8;
</script>

{#if adoption.unplaced.length > 0 || adoption.away.length > 0}
  <section aria-labelledby="desks">
    <h2 id="desks">Desks</h2>
    <div class="parts">
      {#if adoption.unplaced.length > 0}
        <div>
          <p>
            <b>{many(adoption.tasks, 'task')}</b> not placed for over 2 working days
          </p>
          <ul>
            {#each adoption.unplaced.slice(0, SHOWN) as one (one.id)}
              <li><a href="/people/{one.id}/desk">{one.name}</a> <span class="quiet">{one.count}</span></li>
            {/each}
          </ul>
          {#if adoption.unplaced.length > SHOWN}<p class="quiet">
              and {many(adoption.unplaced.length - SHOWN, 'other')}
            </p>{/if}
        </div>
      {/if}
      {#if adoption.away.length > 0}
        <div>
          <p>
            <b>{many(adoption.away.length, 'person has', 'people have')}</b> open tasks and did not look at their
            Desk for 10 working days
          </p>
          <ul>
            {#each adoption.away.slice(0, SHOWN) as one (one.id)}
              <li><a href="/people/{one.id}">{one.name}</a> <span class="quiet">{one.last}</span></li>
            {/each}
          </ul>
          {#if adoption.away.length > SHOWN}<p class="quiet">
              and {many(adoption.away.length - SHOWN, 'other')}
            </p>{/if}
        </div>
      {/if}
    </div>
  </section>
{/if}

<style>
  section {
    margin-top: 16px;
  }
  .parts {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
    gap: 12px 28px;
  }
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 16px;
  }
  a {
    display: inline-block;
    min-height: 24px;
  }
</style>
