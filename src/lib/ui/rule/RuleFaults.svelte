<script lang="ts">
  import type { RuleFaultView } from '$lib/view/rules.ts';

  /** For how much of its work a rule cannot be computed, which tasks those are, and what is wrong with the first. */
  let { fault }: { fault: RuleFaultView } = $props();
  const others = $derived(fault.count - fault.tasks.length);
</script>

{#if fault.schedule}Its schedule cannot be computed.{/if}
{#if fault.count > 0}It cannot be computed for {fault.count}
  {fault.count === 1 ? 'task' : 'tasks'}{#if fault.tasks.length > 0}: {#each fault.tasks as task, i (task.id)}{i >
      0
        ? ', '
        : ''}<a href="/tasks/{task.id}">{task.name}</a>{/each}{others > 0
      ? ` and ${others} more`
      : ''}{/if}.{/if}
{fault.message} It does not ring there; everything else rings.
