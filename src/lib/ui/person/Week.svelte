<script lang="ts">
  /** A working week as seven small days; open ones are lit, and their hours are read out. */
  let { week }: { week: readonly { weekday: string; open: string }[] } = $props();
  const words = $derived(week.map(({ weekday, open }) => `${weekday} ${open || 'closed'}`).join('; '));
</script>

<span class="week" role="img" aria-label={words} title={words}>
  {#each week as { weekday, open } (weekday)}<span class:open>{weekday[0]!.toUpperCase()}</span>{/each}
</span>

<style>
  .week {
    display: inline-flex;
    gap: 2px;
    font-size: 11px;
  }
  .week span {
    width: 17px;
    height: 18px;
    display: grid;
    place-content: center;
    border-radius: 3px;
    background: var(--dim);
    color: var(--ink-3);
  }
  .week .open {
    background: var(--lit);
    color: var(--ink);
    box-shadow: inset 0 0 0 1px var(--lit-edge);
  }
  /* Where the colours are the reader's own, an open day has a frame. */
  @media (forced-colors: active) {
    .week .open {
      outline: 1px solid CanvasText;
      outline-offset: -1px;
    }
  }
</style>
