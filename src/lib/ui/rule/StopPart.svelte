<script lang="ts">
  import type { PastChoices, RuleDefinition } from '$lib/core/rule/model.ts';
  import ConditionTree from './ConditionTree.svelte';
  import Line from './Line.svelte';
  import Part from './Part.svelte';
  import type { RuleChoices } from './choices.ts';

  /** What ends a rule for a task, and what is done about moments that have passed. */
  interface Props {
    definition: RuleDefinition;
    choices: RuleChoices;
    faults: readonly string[];
  }

  let { definition = $bindable(), choices, faults }: Props = $props();
  const stop = $derived(definition.stop);

  const PAST: { key: keyof PastChoices; when: string; options: [string, string][] }[] = [
    {
      key: 'down',
      when: 'the server was down',
      options: [
        ['leave', 'it leaves late, while it has a point'],
        ['fold', 'it waits for their next gathered message'],
        ['do not ring', 'it does not ring']
      ]
    },
    {
      key: 'turnedOn',
      when: 'the rule is turned on',
      options: [
        ['do not ring', 'past ring times are let be'],
        ['latest at the next opening', 'the latest rings at the next opening']
      ]
    },
    {
      key: 'created',
      when: 'a task comes in late',
      options: [
        ['latest', 'the latest rings, in working hours'],
        ['at once', 'the latest rings at once'],
        ['do not ring', 'it does not ring']
      ]
    },
    {
      key: 'moved',
      when: 'a date moves into the past',
      options: [
        ['latest', 'the latest rings, in working hours'],
        ['do not ring', 'it does not ring']
      ]
    },
    {
      key: 'cameTrue',
      when: 'it comes to be watched later',
      options: [
        ['that day', 'it rings until that day ends'],
        ['until use-by', 'it rings while it has a point'],
        ['do not ring', 'it does not ring']
      ]
    },
    {
      key: 'newRecipient',
      when: 'somebody new owns it',
      options: [
        ['once', 'they are told once'],
        ['do not ring', 'they are not told']
      ]
    }
  ];
</script>

<Part title="Stop" {faults}>
  <p class="quiet">
    It is silent for a task outside its Watch, and a date that moves ends the rings of the old date. What
    waited is withdrawn.
  </p>
  <Line label="after">
    <input
      class="value count"
      type="number"
      min="1"
      placeholder="any"
      aria-label="It ends after how many notices"
      value={stop.afterNotices ?? ''}
      onchange={(event) =>
        (definition.stop.afterNotices =
          event.currentTarget.value === '' ? null : Math.max(1, Number(event.currentTarget.value)))}
    />
    <span class="quiet">notices to one person, or after the day</span>
    <input
      class="value"
      type="date"
      aria-label="The last day on which it rings"
      value={stop.until ?? ''}
      onchange={(event) => (definition.stop.until = event.currentTarget.value || null)}
    />
  </Line>
  <Line label="once">
    <ConditionTree
      label="Condition that ends it"
      condition={stop.condition}
      {choices}
      onchange={(condition) => (definition.stop.condition = condition)}
    />
  </Line>
  <Line label="begins">
    <input
      class="value"
      type="datetime-local"
      aria-label="The first moment at which it may ring"
      value={definition.firstRun ?? ''}
      onchange={(event) => (definition.firstRun = event.currentTarget.value.slice(0, 16) || null)}
    />
    <span class="quiet">on the workspace’s wall; empty is at once</span>
  </Line>
  <Line label="in order">
    <label
      ><input type="checkbox" bind:checked={definition.inOrder} /> where the owner and others are told, the others
      wait while the owner’s is held</label
    >
  </Line>
  <Line label="too late">
    <details>
      <summary class="quiet">when a moment has passed</summary>
      {#each PAST as { key, when, options } (key)}
        <label class="past"
          ><span>{when}</span>
          <select
            class="value"
            value={definition.past[key]}
            onchange={(event) => (definition.past = { ...definition.past, [key]: event.currentTarget.value })}
          >
            {#each options as [value, words] (value)}<option {value}>{words}</option>{/each}
          </select></label
        >
      {/each}
    </details>
  </Line>
</Part>

<style>
  .count {
    width: 60px;
  }
  input[type='checkbox'] {
    accent-color: var(--brass-deep);
  }
  summary {
    cursor: pointer;
    width: fit-content;
    padding-top: 4px;
  }
  .past {
    display: grid;
    grid-template-columns: 170px 1fr;
    gap: 8px;
    align-items: center;
    margin-top: 4px;
  }
</style>
