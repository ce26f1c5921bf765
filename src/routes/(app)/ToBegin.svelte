<script lang="ts">
  import type { PageData } from './$types';

  /** What a workspace needs before a rule can ring, while some of it is still to do. */
  let { steps }: { steps: PageData['setUp'] } = $props();
</script>

{#if steps.some(({ done }) => !done)}
  <section class="sheet start" aria-labelledby="to-begin">
    <h2 id="to-begin">Begin</h2>
    <ol>
      {#each steps as { key, done } (key)}
        <li class:done>
          <span class="tick" aria-hidden="true">{done ? '●' : '○'}</span>
          <span>
            {#if key === 'people'}<a href="/people/new">Add people</a>, or
              <a href="/people/sheet">import them</a> from a sheet. Zone and working week decide when each is told.
            {:else if key === 'calendar'}<a href="/calendars">Add holidays to the calendar</a>, so that no
              rule rings on them.
            {:else if key === 'tasks'}<a href="/tasks/import">Import tasks</a> from a CSV file, or
              <a href="/tasks/new">add one</a>.
            {:else}<a href="/rules">Add a rule</a> and check its forecast before you turn it on.{/if}
            <span class="quiet">{done ? 'done' : 'still to do'}</span>
          </span>
        </li>
      {/each}
    </ol>
  </section>
{/if}

<style>
  section {
    margin-bottom: 18px;
  }
  h2 {
    margin-bottom: 6px;
  }
  .start {
    padding: 14px 18px;
    margin-top: 12px;
  }
  .start ol {
    margin-top: 6px;
    display: grid;
    gap: 3px;
  }
  .start li {
    display: flex;
    gap: 10px;
  }
  .start .done {
    color: var(--ink-2);
  }
  .tick {
    color: var(--brass);
  }
</style>
