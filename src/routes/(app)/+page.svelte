<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { Later } from '$lib/ui/later/later.svelte.ts';
  import LaterFault from '$lib/ui/later/LaterFault.svelte';
  import EarshotList from '$lib/ui/bell/EarshotList.svelte';
  import BellStrip from '$lib/ui/bell/BellStrip.svelte';
  import Adoption from '$lib/ui/tower/Adoption.svelte';
  import Attention from '$lib/ui/tower/Attention.svelte';
  import BellTable from '$lib/ui/bell/BellTable.svelte';
  import { CHANNEL } from '$lib/core/channel/channels.ts';
  import Alarms from './Alarms.svelte';
  import Ledger from './Ledger.svelte';
  import Begin from './Begin.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
  let opened = $state<string | null>(null);
  let asTable = $state(false);

  const { tower } = $derived(data);
  const later = new Later(() => data.day);
  const day = $derived(later.value);
  const desks = new Later(() => data.adoption);
  const beyond = $derived(day && day.ahead.all > day.bells.length ? day.ahead.all : null);

  function openBell(key: string | null) {
    opened = key;
    asTable = true;
    requestAnimationFrame(() => document.getElementById(`bell-${key}`)?.scrollIntoView({ block: 'center' }));
  }
</script>

<svelte:head><title>Bell tower · Early Bell</title></svelte:head>

<h1>Bell tower</h1>

<Begin begin={data.begin} sample={data.sample} postRoom={data.frame.postRoom} />

<Alarms {tower} ladders={data.ladders} />

<Ledger {day} {tower} ladders={data.ladders} tallies={data.tallies} />

<section class="sheet band24" aria-labelledby="next">
  <p class="head">
    <span class="title" id="next" role="heading" aria-level="2">Bells in the next 24 hours</span>
    <span class="quiet"
      >Your time zone; light areas are each person’s working time{beyond !== null
        ? `; the first ${day?.bells.length} of ${beyond.toLocaleString('en')}`
        : ''}</span
    >
  </p>
  {#if later.failed}<LaterFault what="The day ahead" />
  {:else if !day}<p class="quiet waits" aria-live="polite">Computing the day ahead…</p>
  {:else}<BellStrip
      strip={day.strip}
      label="Bells in the next 24 hours, one row per person"
      onopen={openBell}
    />{/if}
</section>

{#if day}<Attention byAge={day.byAge} stuck={day.stuck} slipping={day.slipping} loud={day.loud} />{/if}

{#if desks.failed}<LaterFault what="How people keep their Desks" />
{:else if desks.value}<Adoption adoption={desks.value} />{/if}

{#if day && day.outOfEarshot.length > 0}
  <section class="band earshot" aria-labelledby="earshot">
    <b id="earshot">Out of earshot</b>
    <EarshotList groups={day.outOfEarshot} />
  </section>
{/if}

{#if tower.failing.length > 0}
  <section id="failing">
    <h2>Not delivered yet</h2>
    <table>
      <thead><tr><th>Message</th><th>To</th><th>State</th><th>Server’s answer</th></tr></thead>
      <tbody>
        {#each tower.failing as delivery (delivery.id)}
          <tr>
            <td>{delivery.subject}</td>
            <td>{delivery.address} <span class="quiet">{CHANNEL[delivery.channel].words}</span></td>
            <td class="brick-text"
              >{delivery.state === 'failed'
                ? `failed after ${many(delivery.attempt, 'try', 'tries')}`
                : `tried ${many(delivery.attempt, 'time')}, trying again`}{delivery.inDoubt
                ? '; may have arrived'
                : ''}</td
            >
            <td>{delivery.lastAnswer}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </section>
{/if}

<section>
  {#if day && day.bells.length > 0}
    <details bind:open={asTable}>
      <summary>As a table ({many(day.bells.length, 'bell')})</summary>
      <BellTable bells={day.bells} caption="Bells in the next 24 hours" bind:opened />
    </details>
  {:else if day}
    <p class="quiet">No rule rings in the next 24 hours.</p>
  {/if}
</section>

<style>
  .waits {
    min-height: 380px;
  }
  .band24 {
    padding: 12px 14px 8px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
    padding: 4px 0;
    font-weight: 550;
  }
  .head {
    display: flex;
    align-items: baseline;
    gap: 16px;
    flex-wrap: wrap;
    margin-bottom: 6px;
  }
  .title {
    font:
      650 15.5px 'Bricolage Grotesque Variable',
      sans-serif;
  }
  section {
    margin-bottom: 18px;
  }
  h2 {
    margin-bottom: 6px;
  }
</style>
