<script lang="ts">
  import type { Counted, LeftView } from '$lib/view/changes.ts';

  /** Messages that have left because of a change. */
  let { left }: { left: Counted<LeftView> } = $props();
</script>

<table>
  <caption class="sr">Messages sent because of it</caption>
  <thead><tr><th>Message</th><th>To</th><th>Left</th></tr></thead>
  <tbody>
    {#each left.listed as { subject, to, at }, i (i)}
      <tr><td>{subject}</td><td>{to}</td><td class="whitespace-nowrap">{at}</td></tr>
    {/each}
  </tbody>
</table>
{#if left.count > left.listed.length}<p class="quiet">and {left.count - left.listed.length} more</p>{/if}
