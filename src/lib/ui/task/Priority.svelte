<script lang="ts">
  /** Priority as a word, heavier for the upper two of its four steps. */
  let { priority }: { priority: string } = $props();
</script>

<span class={priority}>{priority}</span>

<style>
  span {
    white-space: nowrap;
    color: var(--ink-2);
  }
  .high {
    color: var(--ink);
    font-weight: 600;
  }
  .pressing {
    color: var(--ink);
    font-weight: 750;
  }
</style>
