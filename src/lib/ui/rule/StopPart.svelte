<script lang="ts">
  import { agree } from '$lib/core/many.ts';
  import { capital } from '$lib/core/capital.ts';
  import {
    ORDER_CHOICES,
    PAST_CHOICES,
    QUIET_CHOICES,
    orderOf,
    type CaseChoices
  } from '$lib/core/rule/words/choice-words.ts';
  import type { PastChoices, QuietFor, RuleDefinition } from '$lib/core/rule/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { wordOptions, type Option } from '$lib/ui/pick/option.ts';
  import ConditionTree from './ConditionTree.svelte';
  import Line from './Line.svelte';
  import Part from './Part.svelte';
  import { newTest, testedOptions, withPart } from './tests.ts';
  import type { RuleChoices } from './choices.ts';
  import DateField from '../form/date/DateField.svelte';
  import MomentField from '../form/date/MomentField.svelte';

  /** What ends a rule for a task, and what is done about moments that have passed. */
  interface Props {
    definition: RuleDefinition;
    choices: RuleChoices;
    /** Watched tasks for which it has ended; null where it does not say when it ends. */
    stopped: number | null;
    faults: readonly string[];
  }

  let { definition = $bindable(), choices, stopped, faults }: Props = $props();
  const stop = $derived(definition.stop);

  /** Lines that were asked for and hold nothing yet. */
  let asked = $state<string[]>([]);
  const shown = (line: string, holds: boolean) => holds || asked.includes(line);
  const more = $derived.by((): Option<string>[] => {
    const lines = [
      {
        value: 'notices',
        label: 'ends after a number of notices',
        when: !shown('notices', stop.afterNotices !== null)
      },
      { value: 'until', label: 'ends after a day', when: !shown('until', stop.until !== null) },
      {
        value: 'begins',
        label: 'starts at a date and time',
        when: !shown('begins', definition.firstRun !== null)
      }
    ];
    const tests = testedOptions(choices).map(({ value, label }) => ({
      value: `test ${value}`,
      label: `ends once ${label} …`
    }));
    return [...lines.filter(({ when }) => when), ...tests];
  });
  function add(what: string) {
    if (!what.startsWith('test ')) asked = [...asked, what];
    else definition.stop.condition = withPart(stop.condition, newTest(what.slice(5), choices));
  }
  function drop(line: string) {
    asked = asked.filter((one) => one !== line);
    if (line === 'notices') definition.stop.afterNotices = null;
    else if (line === 'until') definition.stop.until = null;
    else definition.firstRun = null;
  }

  const QUIET = Object.entries(QUIET_CHOICES) as [keyof typeof QUIET_CHOICES, CaseChoices<QuietFor>][];
  const PAST = Object.entries(PAST_CHOICES) as [keyof PastChoices, CaseChoices<string>][];
</script>

{#snippet row({ when, options }: CaseChoices<string>, value: string, onchange: (value: string) => void)}
  <div class="past">
    <span class="quiet">{when}</span>
    <Pick label={capital(when)} still options={wordOptions(options)} {value} {onchange} />
  </div>
{/snippet}

<Part title="Stop" {faults} count={stopped === null ? '' : `ended for ${stopped} of them`}>
  <p class="quiet">Stops when the task leaves the Watch or its date moves. Waiting notices are withdrawn.</p>
  {#if shown('notices', stop.afterNotices !== null)}
    <Line label="after" out={{ label: 'No limit on notices', onclick: () => drop('notices') }}>
      <NumberValue
        label="Notices after which it ends"
        min={1}
        blank="how many"
        value={stop.afterNotices}
        onchange={(afterNotices) => (definition.stop.afterNotices = afterNotices)}
      />
      <span class="quiet">{agree(stop.afterNotices ?? 0, 'notice', 'notices')} per person</span>
    </Line>
  {/if}
  {#if shown('until', stop.until !== null)}
    <Line label="after" out={{ label: 'On any day', onclick: () => drop('until') }}>
      <span class="quiet">the day</span>
      <DateField
        live
        label="The last day on which it rings"
        value={stop.until}
        onchange={(day) => (definition.stop.until = day)}
        onfault={(typed) => (definition.stop.until = typed)}
      />
    </Line>
  {/if}
  {#if stop.condition}
    <Line label="once">
      <ConditionTree
        label="Condition that ends it"
        condition={stop.condition}
        {choices}
        onchange={(condition) => (definition.stop.condition = condition)}
      />
    </Line>
  {/if}
  {#if shown('begins', definition.firstRun !== null)}
    <Line label="begins" out={{ label: 'Start at once', onclick: () => drop('begins') }}>
      <MomentField
        label="First date and time at which it may ring"
        value={definition.firstRun ?? ''}
        onchange={(moment) => (definition.firstRun = moment || null)}
      />
      <span class="quiet">workspace time</span>
    </Line>
  {/if}
  <Line label="">
    <AddMenu caption="Add a start or end" options={more} onadd={add} />
  </Line>
  <Line label="order">
    <Pick
      label="Where the owner and others are told"
      still
      options={wordOptions(ORDER_CHOICES)}
      value={orderOf(definition)}
      onchange={(how) => (definition.inOrder = how === 'order')}
    />
  </Line>
  <Line label="quiet">
    <details>
      <summary class="quiet">acknowledged or stuck tasks</summary>
      {#each QUIET as [key, choices] (key)}
        {@render row(choices, stop.quiet[key], (value) => {
          definition.stop.quiet = { ...stop.quiet, [key]: value as QuietFor };
        })}
      {/each}
    </details>
  </Line>
  <Line label="past">
    <details>
      <summary class="quiet">If a ring time is already past</summary>
      {#each PAST as [key, choices] (key)}
        {@render row(choices, definition.past[key], (value) => {
          definition.past = { ...definition.past, [key]: value };
        })}
      {/each}
    </details>
  </Line>
</Part>

<style>
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
  }
</style>
