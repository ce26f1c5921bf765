<script lang="ts">
  import type { RuleFault } from '$lib/core/rule/rule-fault.ts';
  import RuleFaults from '$lib/ui/rule/RuleFaults.svelte';
  import type { EditedRule } from './edited-rule.svelte.ts';
  import type { PageData } from './$types';

  /** What keeps a rule from ringing, from being turned on, or from being saved. */
  interface Props {
    data: PageData;
    edited: EditedRule;
    faults: readonly RuleFault[];
    refused: { message: string; faults: readonly RuleFault[]; conflict: boolean } | null;
  }

  let { data, edited, faults, refused }: Props = $props();
</script>

{#if data.fault}<p class="band brick mt-2">
    <b>Faulty</b><span>{data.fault} It does not ring until this is corrected.</span>
  </p>{/if}
{#if data.uncomputed}<p class="band brick mt-2">
    <b>Faulty</b><span><RuleFaults fault={data.uncomputed} /></span>
  </p>{/if}
{#if edited.asked && faults.length > 0}<p class="band brick mt-2" role="alert">
    <b>Not ready to turn on.</b><span>Each missing item is marked below.</span>
  </p>{:else if refused}<p class="band brick mt-2" role="alert">
    <b>{refused.message}</b><span
      >{refused.faults.length > 0 ? 'Each missing item is marked below.' : ''}
      {#if refused.conflict}
        <a href="/rules/{data.id}/versions" target="_blank">Show their version</a>
        <button class="button" formaction="?/save" name="over" value="yes">Save my version</button>
      {/if}</span
    >
  </p>{/if}
