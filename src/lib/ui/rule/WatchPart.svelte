<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { watchedPhases } from '$lib/core/rule/model.ts';
  import { UNSEEN, PHASES, PRIORITIES, type Unseen } from '$lib/core/task/model.ts';
  import { makesTasks } from '$lib/core/rule/step-model.ts';
  import type { RuleDefinition } from '$lib/core/rule/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { plainOptions, type Option } from '$lib/ui/pick/option.ts';
  import WatchFields from '$lib/ui/watch/WatchFields.svelte';
  import ConditionTree from './ConditionTree.svelte';
  import Line from './Line.svelte';
  import Part from './Part.svelte';
  import type { RuleChoices } from './choices.ts';
  import { newTest, testedOptions, withPart } from './tests.ts';

  /** Which tasks a rule looks at. */
  interface Props {
    definition: RuleDefinition;
    choices: RuleChoices;
    /** How many tasks; null while that is counted. */
    watched: number | null;
    faults: readonly string[];
  }

  let { definition = $bindable(), choices, watched, faults }: Props = $props();
  const watch = $derived(definition.watch);
  /** Every priority is the same as none chosen. */
  const narrowsPriority = $derived(
    watch.priorities.length > 0 && watch.priorities.length < PRIORITIES.length
  );
  /** Lines that were asked for and hold nothing yet. */
  let asked = $state<string[]>([]);
  const shown = (line: string, holds: boolean) => holds || asked.includes(line);

  const UNSEEN_WORDS: Record<Unseen, string> = {
    parked: 'parked',
    archived: 'archived',
    binned: 'in the bin',
    'called off': 'of a project that is not open'
  };
  const narrowing = $derived.by((): Option<string>[] => {
    const lines: (Option<string> & { when: boolean })[] = [
      {
        value: 'line priority',
        label: 'of some priorities',
        when: !shown('priority', narrowsPriority)
      },
      {
        value: 'line tags',
        label: 'with some tags',
        when: choices.tags.length > 0 && !shown('tags', watch.tags.length > 0)
      },
      {
        value: 'line list',
        label: 'of a saved list',
        when: choices.lists.length > 0 && !shown('list', watch.list !== null)
      },
      {
        value: 'line seen',
        label: 'also parked, archived or in the bin',
        when: !shown('seen', watch.seen.length > 0)
      },
      {
        value: 'line made',
        label: 'watch follow-ups of other rules too',
        when: makesTasks(definition.steps) && !watch.made
      }
    ];
    return [
      ...lines.filter(({ when }) => when),
      ...testedOptions(choices).map((option) => ({ ...option, label: `where ${option.label} …` }))
    ];
  });
  function narrow(what: string) {
    if (what === 'line made') definition.watch.made = true;
    else if (what.startsWith('line ')) asked = [...asked, what.slice(5)];
    else definition.watch.condition = withPart(watch.condition, newTest(what, choices));
  }
  function drop(line: string) {
    asked = asked.filter((one) => one !== line);
    if (line === 'priority') definition.watch.priorities = [];
    else if (line === 'tags') definition.watch.tags = [];
    else if (line === 'list') definition.watch.list = null;
    else definition.watch.seen = [];
  }
</script>

<Part
  title="Watch"
  {faults}
  count={watched === null ? '' : `${many(watched, 'task is', 'tasks are')} watched now`}
>
  <WatchFields
    {watch}
    {choices}
    shown={(field) => asked.includes(field)}
    ondrop={drop}
    onchange={(patch) => Object.assign(definition.watch, patch)}
  >
    <Line label="that are">
      <PickMany
        label="Phases"
        options={plainOptions(PHASES)}
        chosen={watchedPhases(definition)}
        onchange={(chosen) => (definition.watch.phases = chosen)}
      />
      {#if watch.phases !== null}<button
          type="button"
          class="button plain"
          onclick={() => (definition.watch.phases = null)}>set by the ring times</button
        >{/if}
    </Line>
  </WatchFields>
  {#if shown('seen', watch.seen.length > 0)}
    <Line label="also watch" out={{ label: 'Remove “also watch”', onclick: () => drop('seen') }}>
      <PickMany
        label="Also watch"
        between="and"
        options={UNSEEN.map((one) => ({ value: one, label: UNSEEN_WORDS[one] }))}
        chosen={watch.seen}
        onchange={(chosen) => (definition.watch.seen = chosen)}
      />
    </Line>
  {/if}
  {#if watch.made}
    <Line
      label="made too"
      out={{ label: 'Not follow-ups of other rules', onclick: () => (definition.watch.made = false) }}
    >
      <span>follow-ups of other rules, three levels deep at most</span>
    </Line>
  {/if}
  {#if watch.condition}
    <Line label="where">
      <ConditionTree
        label="Condition of the Watch"
        condition={watch.condition}
        {choices}
        onchange={(condition) => (definition.watch.condition = condition)}
      />
    </Line>
  {/if}
  <Line label="">
    <AddMenu caption="Add a condition" label="a condition of the Watch" options={narrowing} onadd={narrow} />
  </Line>
</Part>
