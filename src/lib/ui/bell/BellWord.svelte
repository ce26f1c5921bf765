<script lang="ts">
  import type { BellKind } from '$lib/view/models.ts';
  import BellMark from './BellMark.svelte';

  /** A kind of bell with its word, for tables and legends. */
  let { kind }: { kind: BellKind } = $props();

  /** Marks whose name in code is not their word. */
  const WORDS: Partial<Record<BellKind, string>> = { rung: 'escalation', unrung: 'not sent' };
</script>

<span
  ><svg width="17" height="17" viewBox="-8.5 -8.5 17 17" aria-hidden="true"><BellMark {kind} /></svg>{WORDS[
    kind
  ] ?? kind}</span
>

<style>
  span {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    white-space: nowrap;
  }
</style>
