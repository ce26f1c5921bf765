<script lang="ts">
  /** Whether a rule rings: a shape and a word. */
  let { state }: { state: string } = $props();
</script>

<span class={state}>
  <svg width="13" height="13" viewBox="-6.5 -6.5 13 13" aria-hidden="true">
    {#if state === 'on'}<circle r="5" fill="currentColor" />
    {:else if state === 'draft'}<circle
        r="4.5"
        fill="none"
        stroke="currentColor"
        stroke-width="1.4"
        stroke-dasharray="2.4 2"
      />
    {:else if state === 'off'}<circle r="4.5" fill="none" stroke="currentColor" stroke-width="1.4" />
    {:else}<path d="M-5 4.5H5L0-5Z" fill="none" stroke="currentColor" stroke-width="1.4" />{/if}
  </svg>
  {state}
</span>

<style>
  span {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    color: var(--ink-2);
  }
  .on {
    color: var(--sea);
  }
  .faulty {
    color: var(--brick);
  }
</style>
