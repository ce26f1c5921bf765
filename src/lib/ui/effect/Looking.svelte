<script lang="ts">
  import Progress from '../parts/Progress.svelte';

  /** While it is worked out what an act would do; how far it has come, from 0 to 1, is known where that takes long. */
  let { part }: { part: number | null } = $props();
</script>

<p class="quiet" role="status">
  Computing the effect…
  {#if part !== null}<Progress {part} label="Progress" />{/if}
</p>

<style>
  p {
    display: flex;
    align-items: center;
    gap: 10px;
    margin: 6px 0;
  }
</style>
