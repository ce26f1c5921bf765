<script lang="ts">
  import { bellWord } from '$lib/view/bell-words.ts';
  import type { BellKind } from '$lib/view/models.ts';
  import BellMark from './BellMark.svelte';

  /** A kind of bell with its word, for tables and legends. */
  let { kind }: { kind: BellKind } = $props();
</script>

<span
  ><svg width="17" height="17" viewBox="-8.5 -8.5 17 17" aria-hidden="true"><BellMark {kind} /></svg
  >{bellWord(kind)}</span
>

<style>
  span {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    white-space: nowrap;
  }
</style>
