<script lang="ts">
  import { PRIORITIES, type Lead } from '$lib/core/rule/model.ts';
  import Choices from './Choices.svelte';
  import type { RuleChoices } from './choices.ts';

  /** For whom a ring time holds, and whether it is on. */
  interface Props {
    lead: Lead;
    choices: RuleChoices;
    onchange: (lead: Lead) => void;
  }

  let { lead, choices, onchange }: Props = $props();
  const only = $derived(lead.only ?? { priorities: [], tags: [], groups: [] });
  const set = (patch: Partial<typeof only>) => {
    const next = { ...only, ...patch };
    const asks = next.priorities.length + next.tags.length + next.groups.length > 0;
    onchange({ ...lead, only: asks ? next : null });
  };
</script>

<div class="filter">
  <label
    ><input
      type="checkbox"
      checked={lead.on}
      onchange={(event) => onchange({ ...lead, on: event.currentTarget.checked })}
    /> on</label
  >
  <details open={lead.only !== null}>
    <summary class="quiet">{lead.only ? 'for these only' : 'for every task watched'}</summary>
    <Choices
      legend="Priorities for which it rings"
      options={PRIORITIES.map((one) => ({ value: one, label: one }))}
      chosen={only.priorities}
      onchange={(priorities) => set({ priorities })}
    />
    {#if choices.groups.length > 0}
      <Choices
        legend="Groups of owners for whom it rings"
        options={choices.groups.map(({ id, name }) => ({ value: id, label: name }))}
        chosen={only.groups}
        onchange={(groups) => set({ groups })}
      />
    {/if}
    {#if choices.tags.length > 0}
      <Choices
        legend="Tags for which it rings"
        options={choices.tags.map((tag) => ({ value: tag, label: tag }))}
        chosen={only.tags}
        onchange={(tags) => set({ tags })}
      />
    {/if}
  </details>
</div>

<style>
  .filter {
    display: flex;
    gap: 12px;
    align-items: baseline;
    font-size: 12.5px;
    flex-basis: 100%;
  }
  details {
    flex: 1;
  }
  details :global(fieldset) {
    margin-top: 4px;
  }
  summary {
    cursor: pointer;
    width: fit-content;
  }
  input {
    accent-color: var(--brass-deep);
  }
</style>
