<script lang="ts">
  /** The hours that all days of a Desk share, above their bars. */
  let { hours }: { hours: readonly [from: number, until: number] } = $props();
  const step = $derived(hours[1] - hours[0] > 14 ? 4 : 2);
  const ticks = $derived(
    Array.from({ length: hours[1] - hours[0] + 1 }, (_, i) => hours[0] + i).filter(
      (hour) => (hour - hours[0]) % step === 0
    )
  );
  const place = (hour: number) => ((hour - hours[0]) / (hours[1] - hours[0])) * 100;
</script>

<span class="axis" aria-hidden="true">
  {#each ticks as hour (hour)}
    <span class:first={hour === hours[0]} class:last={hour === hours[1]} style="left:{place(hour)}%"
      >{String(hour).padStart(2, '0')}:00</span
    >
  {/each}
</span>

<style>
  .axis {
    position: relative;
    display: block;
    height: 16px;
    font-size: 11.5px;
    color: var(--ink-3);
  }
  .axis span {
    position: absolute;
    transform: translateX(-50%);
  }
  .axis .first {
    transform: none;
  }
  .axis .last {
    transform: translateX(-100%);
  }
</style>
