<script lang="ts">
  /** Where a task stands on its ladder: a flight of steps with a bell on the one that rang last. */
  let { number, of }: { number: number; of: number } = $props();

  /** A long ladder is drawn with the last steps only; the words beside say all of it. */
  const MOST = 6;
  const steps = $derived(Math.min(of, MOST));
  const on = $derived(number - (of - steps));
  const width = $derived(steps * 9 + 4);
  const height = $derived(steps * 4 + 16);
  const top = (step: number) => height - 2 - step * 4;
  const bell =
    'M-4.6 3.2C-3.2 1.6-3.4-.4-3.1-1.6-2.6-3.8-1.3-4.8 0-4.8S2.6-3.8 3.1-1.6C3.4-.4 3.2 1.6 4.6 3.2ZM-1.4 4.6A1.5 1.3 0 0 0 1.4 4.6Z';
  const path = $derived(
    Array.from({ length: steps }, (_, i) => `M${2 + i * 9} ${top(i + 1)}h9v${i + 1 < steps ? -4 : 0}`).join(
      ''
    )
  );
</script>

<svg {width} {height} viewBox="0 0 {width} {height}" aria-hidden="true">
  <path d={path} fill="none" stroke="var(--ink-3)" stroke-width="1.4" />
  {#if on > 0}
    <g transform="translate({2 + (on - 1) * 9 + 4.5} {top(on) - 6.4})">
      <path d={bell} fill="var(--brick)" />
    </g>
  {/if}
</svg>

<style>
  svg {
    display: block;
    flex: none;
  }
</style>
