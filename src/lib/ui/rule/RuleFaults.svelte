<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import type { RuleFaultView } from '$lib/view/rules.ts';

  /** For how much of its work a rule cannot be computed, which tasks those are, and what is wrong with the first. */
  interface Props {
    fault: RuleFaultView;
    /** The rule, where it is not the one whose page this is. */
    rule?: { id: number; name: string };
  }

  let { fault, rule }: Props = $props();
  const others = $derived(fault.count - fault.tasks.length);
  const what = $derived(
    [
      fault.schedule ? 'its schedule' : '',
      fault.count > 0 ? `${many(fault.count, 'task')}${fault.pending ? ' so far' : ''}` : ''
    ].filter(Boolean)
  );
</script>

{#if rule}<a href="/rules/{rule.id}">{rule.name}</a>{:else}It{/if} cannot be computed for {what.join(
  ' and for '
)}{#if fault.tasks.length > 0}: {#each fault.tasks as task, i (task.id)}{i > 0 ? ', ' : ''}<a
      href="/tasks/{task.id}">{task.name}</a
    >{/each}{others > 0 ? ` and ${others} more` : ''}{/if}. {fault.message} It does not ring there. Other rules
and tasks are not affected.
