<script lang="ts">
  import type { BesideView } from '$lib/view/rule-trials.ts';

  /** A draft beside the version that is live. */
  let { beside }: { beside: BesideView } = $props();
  const HOW = { added: 'besides', gone: 'no more', moved: 'moved' } as const;
  const listed = $derived(beside.rows.length);
  const all = $derived(beside.added + beside.gone + beside.moved);
</script>

<p class="counts" aria-live="polite">
  Until {beside.until}: <b>{beside.added}</b> added, <b>{beside.gone}</b> removed,
  <b>{beside.moved}</b>
  moved, <b>{beside.same}</b> unchanged.
</p>
{#if all === 0}
  <p class="quiet">The draft rings exactly like the live version.</p>
{:else}
  <table>
    <caption class="sr">Notices that the draft adds, removes or moves</caption>
    <thead><tr><th>How</th><th>Leaves</th><th>Task</th><th>Tells</th></tr></thead>
    <tbody>
      {#each beside.rows as { how, bell, was } (how + bell.key)}
        <tr>
          <td class={how}>{HOW[how]}</td>
          <td class="whitespace-nowrap">
            {#if how === 'gone'}<s>{bell.time.there}</s>{:else}{bell.time.there}{/if}
            <span class="quiet block">{bell.time.place}{was ? ` · was ${was.there}` : ''}</span>
          </td>
          <td>{bell.taskName}</td>
          <td>{bell.readerName}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if all > listed}<p class="quiet">and {all - listed} more.</p>{/if}
{/if}

<style>
  .counts {
    font-size: 13px;
  }
  .added {
    color: var(--sea);
    font-weight: 550;
  }
  .gone {
    color: var(--brick);
    font-weight: 550;
  }
  .moved {
    color: var(--slate);
    font-weight: 550;
  }
</style>
