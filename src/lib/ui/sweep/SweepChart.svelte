<script lang="ts">
  import type ApexCharts from 'apexcharts';
  import { onMount } from 'svelte';
  import { loadChart } from '$lib/ui/chart/load-chart.ts';
  import type { SweepBar } from '$lib/view/sweeps.ts';

  /** How much each sweep took, day by day; the same stands in the reports beside it. */
  let { bars }: { bars: readonly SweepBar[] } = $props();
  let box = $state<HTMLElement>();

  const days = $derived([...new Set(bars.map(({ day }) => day))]);
  const series = $derived(
    [...new Set(bars.map(({ name }) => name))].map((name) => ({
      name,
      data: days.map((day) =>
        bars.reduce((sum, bar) => sum + (bar.day === day && bar.name === name ? bar.count : 0), 0)
      )
    }))
  );

  onMount(() => {
    let chart: ApexCharts | null = null;
    let gone = false;
    if (!box) return;
    void loadChart(box).then(async (Chart) => {
      if (gone || !box) return;
      const colour = (name: string) => getComputedStyle(box!).getPropertyValue(name).trim();
      const label = { style: { colors: colour('--ink-2'), fontSize: '11.5px', fontFamily: 'inherit' } };
      chart = new Chart(box, {
        chart: {
          ...{ type: 'bar', height: 190, stacked: true, toolbar: { show: false } },
          ...{ animations: { enabled: false }, fontFamily: 'inherit', background: 'transparent' }
        },
        series,
        plotOptions: { bar: { columnWidth: '46%', borderRadius: 2 } },
        colors: ['--sea', '--brass', '--slate', '--brick', '--ink-3'].map(colour),
        dataLabels: { enabled: false },
        legend: { position: 'top', horizontalAlign: 'left', labels: { colors: colour('--ink-2') } },
        grid: { borderColor: colour('--line-soft'), padding: { left: 4, right: 4 } },
        xaxis: { categories: days, labels: label, axisBorder: { show: false }, axisTicks: { show: false } },
        yaxis: { labels: { ...label, formatter: (count: number) => String(Math.round(count)) } },
        tooltip: { enabled: false }
      });
      await chart.render();
    });
    return () => {
      gone = true;
      chart?.destroy();
    };
  });
</script>

{#if bars.length === 0}
  <p class="quiet">No task was changed in the last 90 days.</p>
{:else}
  <div bind:this={box} class="chart" aria-hidden="true"></div>
{/if}

<style>
  .chart {
    min-height: 190px;
  }
</style>
