<script lang="ts">
  import { agree } from '$lib/core/many.ts';
  import type { PastChoices, QuietFor, RuleDefinition } from '$lib/core/rule/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import type { Option } from '$lib/ui/pick/option.ts';
  import ConditionTree from './ConditionTree.svelte';
  import Line from './Line.svelte';
  import Part from './Part.svelte';
  import { newTest, testedOptions, withPart } from './tests.ts';
  import type { RuleChoices } from './choices.ts';

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

  const QUIET: { key: 'acknowledged' | 'stuck'; when: string; options: [QuietFor, string][] }[] = [
    {
      key: 'acknowledged',
      when: 'somebody has acknowledged it',
      options: [
        ['overdue', 'they get no overdue notice until then'],
        ['everything', 'they get nothing of this rule until then'],
        ['nothing', 'ring anyway']
      ]
    },
    {
      key: 'stuck',
      when: 'it is stuck on others',
      options: [
        ['overdue', 'its owners get no overdue notice'],
        ['everything', 'its owners get nothing of this rule'],
        ['nothing', 'ring anyway']
      ]
    }
  ];

  const PAST: { key: keyof PastChoices; when: string; options: [string, string][] }[] = [
    {
      key: 'down',
      when: 'the server was down',
      options: [
        ['leave', 'send late, if still useful'],
        ['fold', 'keep for their next digest'],
        ['do not ring', 'do not ring']
      ]
    },
    {
      key: 'turnedOn',
      when: 'the rule is turned on',
      options: [
        ['do not ring', 'skip past ring times'],
        ['latest at the next opening', 'send the latest when they can next be told']
      ]
    },
    {
      key: 'created',
      when: 'a task is added too late',
      options: [
        ['latest', 'send the latest, in working hours'],
        ['at once', 'send the latest at once'],
        ['do not ring', 'do not ring']
      ]
    },
    {
      key: 'moved',
      when: 'a date moves into the past',
      options: [
        ['latest', 'send the latest, in working hours'],
        ['do not ring', 'do not ring']
      ]
    },
    {
      key: 'cameTrue',
      when: 'a task starts to match later',
      options: [
        ['that day', 'ring until that day ends'],
        ['until use-by', 'ring until it is no longer useful'],
        ['do not ring', 'do not ring']
      ]
    },
    {
      key: 'newRecipient',
      when: 'the owner changes',
      options: [
        ['once', 'tell them once'],
        ['do not ring', 'do not tell them']
      ]
    }
  ];
</script>

{#snippet row(
  when: string,
  options: readonly [string, string][],
  value: string,
  onchange: (value: string) => void
)}
  <div class="past">
    <span class="quiet">{when}</span>
    <Pick
      label="When {when}"
      still
      options={options.map(([one, words]) => ({ value: one, label: words }))}
      {value}
      {onchange}
    />
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
      <input
        class="value"
        type="date"
        aria-label="The last day on which it rings"
        value={stop.until ?? ''}
        onchange={(event) => (definition.stop.until = event.currentTarget.value || null)}
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
      <input
        class="value"
        type="datetime-local"
        aria-label="First date and time at which it may ring"
        value={definition.firstRun ?? ''}
        onchange={(event) => (definition.firstRun = event.currentTarget.value.slice(0, 16) || null)}
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
      options={[
        { value: 'each', label: 'tell each as soon as possible' },
        { value: 'order', label: 'tell the owner first' }
      ]}
      value={definition.inOrder ? 'order' : 'each'}
      onchange={(how) => (definition.inOrder = how === 'order')}
    />
  </Line>
  <Line label="quiet">
    <details>
      <summary class="quiet">acknowledged or stuck tasks</summary>
      {#each QUIET as { key, when, options } (key)}
        {@render row(when, options, stop.quiet[key], (value) => {
          definition.stop.quiet = { ...stop.quiet, [key]: value as QuietFor };
        })}
      {/each}
    </details>
  </Line>
  <Line label="past">
    <details>
      <summary class="quiet">If a ring time is already past</summary>
      {#each PAST as { key, when, options } (key)}
        {@render row(when, options, definition.past[key], (value) => {
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
