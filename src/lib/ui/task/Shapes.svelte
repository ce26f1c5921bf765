<script lang="ts">
  import Segmented from '../parts/Segmented.svelte';

  /** How the list is shown: as rows, columns or days. */
  let { shape, onchange }: { shape: string; onchange: (shape: string) => void } = $props();
  const SHAPES = ['rows', 'columns', 'days'].map((value) => ({ value, label: value }));
</script>

<span class="shapes no-print">
  <span class="quiet" aria-hidden="true">shown as</span>
  <Segmented label="Shown as" options={SHAPES} value={shape} {onchange} />
</span>

<style>
  .shapes {
    display: inline-flex;
    gap: 10px;
    align-items: baseline;
    font-size: 13px;
  }
</style>
