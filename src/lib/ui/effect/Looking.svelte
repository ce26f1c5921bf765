<script lang="ts">
  /** While it is worked out what an act would do; how far it has come, from 0 to 1, is known where that takes long. */
  let { part }: { part: number | null } = $props();
</script>

<p class="quiet" role="status">
  Computing the effect…
  {#if part !== null}<progress max="1" value={part} aria-label="Progress">{Math.round(part * 100)} %</progress
    >{/if}
</p>

<style>
  p {
    display: flex;
    align-items: center;
    gap: 10px;
    margin: 6px 0;
  }
  progress {
    width: 180px;
  }
</style>
