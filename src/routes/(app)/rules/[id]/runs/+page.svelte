<script lang="ts">
  import RunTable from '$lib/ui/rule/RunTable.svelte';
  import type { PageData } from './$types';

  let { data }: { data: PageData } = $props();
</script>

<svelte:head><title>Runs of {data.rule.name} · Early Bell</title></svelte:head>

<p class="quiet"><a href="/rules">Rules</a> · <a href="/rules/{data.rule.id}">{data.rule.name}</a></p>
<h1>Runs</h1>
{#if data.runs.length === 0}
  <p class="quiet">No runs yet. Each run is listed here with what it found and did.</p>
{:else}
  {#if data.months.length > 0}
    <table class="months">
      <caption class="quiet">Use by month</caption>
      <thead
        ><tr><th scope="col">Month</th><th scope="col">Runs</th><th scope="col">Notices sent</th></tr></thead
      >
      <tbody>
        {#each data.months as month (month.month)}<tr
            ><td>{month.month}</td><td>{month.runs}</td><td>{month.notices}</td></tr
          >{/each}
      </tbody>
    </table>
  {/if}
  <RunTable runs={data.runs} ruleId={data.rule.id} caption="Runs, newest first" />
  {#if data.runs.length === data.listed}<p class="quiet">The newest {data.listed} are listed.</p>{/if}
{/if}

<style>
  .months {
    width: auto;
    margin: 8px 0 18px;
  }
  .months :is(td, th) {
    padding-right: 28px;
  }
  caption {
    text-align: left;
  }
</style>
