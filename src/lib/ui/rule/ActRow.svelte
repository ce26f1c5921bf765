<script lang="ts">
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import { PRIORITIES } from '$lib/core/task/model.ts';
  import { ACT_NAMES, type Act, type AssigneeChoice } from '$lib/core/rule/acts.ts';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { namedOptions, plainOptions, type Option } from '$lib/ui/pick/option.ts';
  import TakeOut from './TakeOut.svelte';
  import DateChoice from './DateChoice.svelte';
  import { ACT_LABELS, isOffered, newAct } from './acts.ts';
  import type { RuleChoices } from './choices.ts';

  /** One change that a rule makes. */
  interface Props {
    act: Act;
    choices: RuleChoices;
    onchange: (act: Act) => void;
    onremove: () => void;
  }

  let { act, choices, onchange, onremove }: Props = $props();

  const offered = $derived(ACT_NAMES.filter((name) => isOffered(name, choices)));
  const assigneeKey = (choice: AssigneeChoice) =>
    choice.who === 'person' ? `person ${choice.id}` : choice.who;
  const assigneeOf = (key: string): AssigneeChoice =>
    key.startsWith('person ')
      ? { who: 'person', id: Number(key.slice(7)) }
      : key === 'role'
        ? { who: 'role', role: '' }
        : { who: key as 'owner' };
  const sections = $derived(
    'projectId' in act
      ? choices.sections.filter(
          ({ projectId }) => projectId === (act as { projectId: number | null }).projectId
        )
      : []
  );
  const assignees = $derived<Option<string>[]>([
    { value: 'owner', label: 'the task’s owner' },
    { value: 'manager', label: 'the owner’s manager' },
    { value: 'above', label: 'the next active manager' },
    { value: 'keeper', label: 'the rule’s keeper' },
    { value: 'actor', label: 'the person who changed it' },
    { value: 'creator', label: 'its creator' },
    { value: 'role', label: 'a role of its project' },
    ...choices.people.map(({ id, name }) => ({ value: `person ${id}`, label: name, group: 'A person' }))
  ]);
  const NOWHERE = 0;
</script>

{#snippet assignee(choice: AssigneeChoice, set: (choice: AssigneeChoice) => void)}
  <Pick
    label="To whom"
    options={assignees}
    value={assigneeKey(choice)}
    onchange={(key) => set(assigneeOf(key))}
  />
  {#if choice.who === 'role'}<input
      class="value"
      aria-label="Which role"
      value={choice.role}
      onchange={(event) => set({ who: 'role', role: event.currentTarget.value.trim() })}
    />{/if}
{/snippet}

<div class="act" role="group" aria-label="Change: {ACT_LABELS[act.act]}">
  <Pick
    label="What it changes"
    options={offered.map((name) => ({ value: name, label: ACT_LABELS[name] }))}
    value={act.act}
    onchange={(name) => onchange(newAct(name, choices))}
  />
  {#if act.act === 'set status' || act.act === 'update open tasks'}
    <Pick
      label="To which status"
      options={namedOptions(choices.statuses)}
      value={act.statusId}
      onchange={(statusId) => onchange({ ...act, statusId })}
    />
  {:else if act.act === 'set priority'}
    <Pick
      label="To which priority"
      options={plainOptions(PRIORITIES)}
      value={act.priority}
      onchange={(priority) => onchange({ ...act, priority })}
    />
  {:else if act.act === 'set percent'}
    <NumberValue
      label="To how many percent"
      max={100}
      value={act.percent}
      onchange={(percent) => percent !== null && onchange({ ...act, percent })}
    />
  {:else if act.act === 'set field'}
    {@const field = choices.fields.find(({ id }) => id === act.fieldId)}
    <Pick
      label="Which field it sets"
      options={namedOptions(choices.fields)}
      value={act.fieldId}
      onchange={(fieldId) => onchange({ ...act, fieldId, value: null })}
    />
    {#if field?.kind === 'one choice'}
      <Pick
        label="To which value"
        options={[{ value: '', label: 'nothing' }, ...plainOptions(field.choices)]}
        value={String(act.value ?? '')}
        onchange={(value) => onchange({ ...act, value: value || null })}
      />
    {:else if field?.kind === 'yes or no'}
      <Pick
        label="To which value"
        options={[
          { value: '', label: 'nothing' },
          { value: 'yes', label: 'yes' },
          { value: 'no', label: 'no' }
        ]}
        value={act.value === true ? 'yes' : act.value === false ? 'no' : ''}
        onchange={(value) => onchange({ ...act, value: value === '' ? null : value === 'yes' })}
      />
    {:else if field?.kind === 'person'}
      <Pick
        label="To which value"
        options={namedOptions(choices.people)}
        value={typeof act.value === 'number' ? act.value : null}
        onchange={(value) => onchange({ ...act, value })}
      />
    {:else}
      <input
        class="value"
        aria-label="To which value"
        type={field?.kind === 'number' ? 'number' : field?.kind === 'date' ? 'date' : 'text'}
        value={act.value ?? ''}
        onchange={(event) => {
          const typed = event.currentTarget.value;
          const value = typed === '' ? null : field?.kind === 'number' ? Number(typed) : typed;
          onchange({ ...act, value });
        }}
      />
    {/if}
  {:else if act.act === 'set due' || act.act === 'set start'}
    <DateChoice date={act.date} onchange={(date) => onchange({ ...act, date })} />
    <TimeField
      class="value time"
      label="Time of the new date"
      value={act.time}
      onchange={(time) => onchange({ ...act, time })}
    />
  {:else if act.act === 'assign'}
    {@render assignee(act.to, (to) => onchange({ ...act, to }))}
  {:else if act.act === 'add tag' || act.act === 'remove tag'}
    <input
      class="value"
      aria-label="Which tag"
      maxlength="60"
      value={act.tag}
      onchange={(event) => onchange({ ...act, tag: event.currentTarget.value.trim() })}
    />
  {:else if act.act === 'move' || act.act === 'copy'}
    <Pick
      label="To which project"
      options={[{ value: NOWHERE, label: 'no project' }, ...namedOptions(choices.projects)]}
      value={act.projectId ?? NOWHERE}
      onchange={(id) => onchange({ ...act, projectId: id || null, sectionId: null })}
    />
    {#if sections.length > 0}<Pick
        label="To which section"
        options={[{ value: NOWHERE, label: 'no section' }, ...namedOptions(sections)]}
        value={act.sectionId ?? NOWHERE}
        onchange={(id) => onchange({ ...act, sectionId: id || null })}
      />{/if}
  {:else if act.act === 'comment'}
    <input
      class="value grow"
      aria-label="What it says"
      maxlength="5000"
      value={act.text}
      onchange={(event) => onchange({ ...act, text: event.currentTarget.value })}
    />
  {:else if act.act === 'follow-up'}
    <input
      class="value grow"
      aria-label="Name of the follow-up"
      maxlength="500"
      value={act.name}
      onchange={(event) => onchange({ ...act, name: event.currentTarget.value })}
    />
    <span class="row">
      <span class="quiet">for</span>
      {@render assignee(act.owner ?? { who: 'owner' }, (owner) => onchange({ ...act, owner }))}
      <span class="quiet">due</span>
      <DateChoice date={act.due} onchange={(due) => onchange({ ...act, due })} />
      <TimeField
        class="value time"
        label="Time of the follow-up"
        value={act.time}
        onchange={(time) => onchange({ ...act, time })}
      />
    </span>
  {:else if act.act === 'create section'}
    <input
      class="value"
      aria-label="Name of the section"
      maxlength="120"
      value={act.name}
      onchange={(event) => onchange({ ...act, name: event.currentTarget.value })}
    />
  {:else if act.act === 'park'}
    <DateChoice date={act.review} onchange={(review) => onchange({ ...act, review })} />
  {:else if act.act === 'ring another'}
    <Pick
      label="Which rule"
      options={namedOptions(choices.rules)}
      value={act.ruleId}
      onchange={(ruleId) => onchange({ ...act, ruleId })}
    />
  {/if}
  <TakeOut label="Remove this change" onclick={onremove} />
</div>

<style>
  .act,
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    align-items: center;
  }
  .row {
    flex-basis: 100%;
  }
  .grow {
    flex: 1 1 180px;
  }
</style>
