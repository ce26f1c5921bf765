<script lang="ts">
  import type ApexCharts from 'apexcharts';
  import { onMount } from 'svelte';
  import { loadChart } from '$lib/ui/chart/load-chart.ts';
  import type { OverdueBand } from '$lib/view/tower.ts';

  /** What is overdue by age, as bars; the same stands below them in words, each leading to its list. */
  let { bands }: { bands: readonly OverdueBand[] } = $props();
  let box: HTMLElement;
  let chart: ApexCharts | null = null;

  const wordsOf = (band: string) => (band === 'under 1' ? 'under 1 day' : `${band} days`);
  const series = $derived([{ name: 'overdue', data: bands.map(({ count }) => count) }]);

  onMount(() => {
    let gone = false;
    void loadChart().then(async (Chart) => {
      if (gone) return;
      const colour = (name: string) => getComputedStyle(box).getPropertyValue(name).trim();
      const label = { style: { colors: colour('--ink-2'), fontSize: '12px', fontFamily: 'inherit' } };
      chart = new Chart(box, {
        chart: {
          ...{ type: 'bar', height: 148, toolbar: { show: false }, animations: { enabled: false } },
          ...{ fontFamily: 'inherit', background: 'transparent', parentHeightOffset: 0 }
        },
        series,
        plotOptions: { bar: { horizontal: true, barHeight: '62%', borderRadius: 2 } },
        colors: [colour('--brick')],
        dataLabels: {
          enabled: true,
          // A band without any has no bar to stand on.
          formatter: (count: number) => (count === 0 ? '' : String(count)),
          textAnchor: 'start',
          style: { fontWeight: 600, colors: [colour('--sheet')] }
        },
        grid: { show: false, padding: { top: -22, bottom: -14, left: 0, right: 4 } },
        xaxis: {
          categories: bands.map(({ band }) => wordsOf(band)),
          ...{ labels: { show: false }, axisBorder: { show: false }, axisTicks: { show: false } }
        },
        yaxis: { labels: { ...label, maxWidth: 90 } },
        tooltip: { enabled: false },
        states: { hover: { filter: { type: 'none' } }, active: { filter: { type: 'none' } } }
      });
      await chart.render();
    });
    return () => {
      gone = true;
      chart?.destroy();
    };
  });

  $effect(() => {
    void chart?.updateSeries(series);
  });
</script>

<div bind:this={box} class="chart" aria-hidden="true"></div>
<ul aria-label="Overdue by working days">
  {#each bands as { band, count } (band)}
    {#if count > 0}<li>
        <a href="/tasks?show=overdue&band={encodeURIComponent(band)}">{count} <span>{wordsOf(band)}</span></a>
      </li>{/if}
  {/each}
</ul>

<style>
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 12px;
    font-size: 13px;
    max-width: 330px;
  }
  .chart {
    min-height: 148px;
    max-width: 330px;
  }
</style>
