<script lang="ts">
  import {
    SWEEP_ACTS,
    UNANSWERED,
    blankSweep,
    type SweepAct,
    type SweepActName,
    type SweepDefinition
  } from '$lib/core/sweep/model.ts';
  import { ACT_WORDS } from '$lib/core/sweep/words.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import ConditionTree from '$lib/ui/rule/ConditionTree.svelte';
  import Line from '$lib/ui/rule/Line.svelte';
  import Part from '$lib/ui/rule/Part.svelte';
  import type { RuleChoices } from '$lib/ui/rule/choices.ts';
  import { newTest, testedOptions, withPart } from '$lib/ui/rule/tests.ts';
  import WatchFields from '$lib/ui/watch/WatchFields.svelte';
  import ScheduleLine from '$lib/ui/schedule/ScheduleLine.svelte';

  /** What a sweep says, as ruled blocks of labelled values. */
  interface Props {
    definition: SweepDefinition;
    choices: RuleChoices;
  }

  let { definition = $bindable(), choices }: Props = $props();
  const set = (patch: Partial<SweepDefinition>) => (definition = { ...definition, ...patch });
  const watch = $derived(definition.watch);
  const setWatch = (patch: Partial<SweepDefinition['watch']>) => set({ watch: { ...watch, ...patch } });
  const act = $derived(definition.act);
  const setAct = (patch: Partial<SweepAct>) => set({ act: { ...act, ...patch } as SweepAct });
  const isPurge = $derived(act.act === 'purge');

  function setActName(name: SweepActName) {
    const blank = blankSweep(name);
    set({ act: blank.act, wait: blank.wait, goes: name === 'purge' ? 'after a yes' : definition.goes });
  }
  function setBy(by: 'hand' | 'schedule') {
    if (by === definition.when.by) return;
    set({
      when:
        by === 'hand'
          ? { by }
          : {
              ...{ by, rrule: 'FREQ=WEEKLY;BYDAY=WE', start: choices.today, time: '12:00' },
              ...{ zone: null, closedDay: 'later' as const }
            }
    });
  }
  const setWhen = (patch: object) =>
    set({ when: { ...definition.when, ...patch } as SweepDefinition['when'] });

  const SINCE = {
    close: 'after it was finished',
    purge: 'after it was archived',
    'still needed': 'without a change',
    'ask a date': 'after it was created',
    're-date': 'after its due time',
    'report slips': 'after it was created',
    'bring back': 'after its review date'
  } as const;
  const since = $derived(act.act === 'archive' ? `after it was ${act.after}` : SINCE[act.act]);
</script>

<Part title="Action">
  <Line label="what">
    <Pick
      label="Action of the sweep"
      options={SWEEP_ACTS.map((value) => ({ value, label: ACT_WORDS[value] }))}
      value={act.act}
      onchange={setActName}
    />
  </Line>
  {#if act.act === 'archive'}
    <Line label="tasks">
      <Pick
        label="Which tasks"
        options={wordOptions({
          closed: 'closed tasks',
          finished: 'closed and finished tasks'
        })}
        value={act.after}
        onchange={(after) => setAct({ after })}
      />
    </Line>
  {:else if act.act === 'still needed'}
    <Line label="answer" group="When nobody answers">
      <span class="quiet">within</span>
      <NumberValue
        label="Working days for an answer"
        min={1}
        max={60}
        value={act.answerDays}
        onchange={(answerDays) => answerDays !== null && setAct({ answerDays })}
      />
      <span class="quiet">working days; no answer counts as</span>
      <Pick
        label="If there is no answer"
        options={UNANSWERED.map((value) => ({ value, label: `${value} it` }))}
        value={act.otherwise}
        onchange={(otherwise) => setAct({ otherwise })}
      />
    </Line>
  {:else if act.act === 're-date'}
    <Line label="to">
      <Pick
        label="New due date"
        options={wordOptions({ today: 'today', 'next working day': 'the next working day' })}
        value={act.to}
        onchange={(to) => setAct({ to })}
      />
    </Line>
  {:else if act.act === 'report slips'}
    <Line label="at least">
      <NumberValue
        label="How often it was postponed"
        min={1}
        max={100}
        value={act.atLeast}
        onchange={(atLeast) => atLeast !== null && setAct({ atLeast })}
      />
      <span class="quiet">times postponed</span>
    </Line>
  {/if}
  <Line label="waits" group="Its wait">
    <NumberValue
      label="Length of the wait"
      max={3650}
      value={definition.wait.n}
      onchange={(n) => n !== null && set({ wait: { ...definition.wait, n } })}
    />
    <Pick
      label="Unit of the wait"
      options={wordOptions({ hour: 'hours', day: 'days', workday: 'working days of the owner' })}
      value={definition.wait.unit}
      onchange={(unit) => set({ wait: { ...definition.wait, unit } })}
    />
    <span class="quiet">{since}</span>
  </Line>
</Part>

<Part title="Watch">
  <WatchFields {watch} {choices} of="the sweep" onchange={setWatch} />
  {#if watch.condition}
    <Line label="where">
      <ConditionTree
        label="Condition of the sweep"
        condition={watch.condition}
        {choices}
        onchange={(condition) => setWatch({ condition })}
      />
    </Line>
  {/if}
  <Line label="">
    <AddMenu
      caption="Add a condition"
      label="Add a condition"
      options={testedOptions(choices)}
      onadd={(what) => setWatch({ condition: withPart(watch.condition, newTest(what, choices)) })}
    />
  </Line>
</Part>

<Part title="Runs">
  <Line label="when">
    <Pick
      label="When it runs"
      options={wordOptions({ hand: 'by hand', schedule: 'on a schedule' })}
      value={definition.when.by}
      onchange={setBy}
    />
  </Line>
  {#if definition.when.by === 'schedule'}
    <ScheduleLine when={definition.when} of="the sweep" onchange={setWhen} />
    <Line label="list sent">
      <span class="quiet">to the keeper, one working day before; then it</span>
      <Pick
        label="After the list is sent"
        options={[
          {
            value: 'unless stopped',
            label: 'run (can be cancelled)',
            unfit: isPurge ? 'a purge always needs approval' : null
          },
          { value: 'after a yes', label: 'wait for approval' }
        ]}
        value={definition.goes}
        onchange={(goes) => set({ goes: goes as SweepDefinition['goes'] })}
      />
    </Line>
  {/if}
  <Line label="if killed">
    <Pick
      label="If the run is killed part-way"
      options={wordOptions({ 'go on': 'continue at the next start', undo: 'undo at the next start' })}
      value={definition.cutOff}
      onchange={(cutOff) => set({ cutOff })}
    />
  </Line>
</Part>
