<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import TimeInput from '$lib/ui/form/TimeInput.svelte';
  import { PRIORITIES } from '$lib/core/rule/model.ts';
  import { ACT_NAMES, type Act, type AssigneeChoice, type DateExpression } from '$lib/core/rule/acts.ts';
  import DateChoice from './DateChoice.svelte';
  import type { RuleChoices } from './choices.ts';

  /** One change that a rule makes. */
  interface Props {
    act: Act;
    choices: RuleChoices;
    onchange: (act: Act) => void;
    onremove: () => void;
  }

  let { act, choices, onchange, onremove }: Props = $props();

  const TODAY: DateExpression = { from: 'today', n: 5, unit: 'workday' };
  const LABELS: Record<Act['act'], string> = {
    'set status': 'set the status',
    'set priority': 'set the priority',
    'set percent': 'set the percent',
    'set field': 'set a field',
    'set due': 'set the due date',
    'set start': 'set the start',
    assign: 'give it to somebody',
    unassign: 'take its owner away',
    'add tag': 'add a tag',
    'remove tag': 'take a tag off',
    move: 'move it',
    copy: 'copy it',
    comment: 'comment',
    'follow-up': 'create a follow-up',
    'create section': 'create a section',
    archive: 'archive it',
    bin: 'put it in the bin',
    park: 'park it',
    'update open tasks': 'set every open task of its project',
    'ring another': 'ring another rule for it'
  };
  /** Acts for which nothing can be chosen yet are not offered. */
  const offered = $derived(
    ACT_NAMES.filter(
      (name) =>
        (name !== 'set field' || choices.fields.length > 0) &&
        (name !== 'ring another' || choices.rules.length > 0)
    )
  );

  function make(name: Act['act']): Act {
    const statusId = choices.statuses[0]?.id ?? 0;
    switch (name) {
      case 'set status':
      case 'update open tasks':
        return { act: name, statusId };
      case 'set priority':
        return { act: name, priority: 'high' };
      case 'set percent':
        return { act: name, percent: 0 };
      case 'set field':
        return { act: name, fieldId: choices.fields[0]?.id ?? 0, value: null };
      case 'set due':
      case 'set start':
        return { act: name, date: TODAY, time: null };
      case 'assign':
        return { act: name, to: { who: 'manager' } };
      case 'add tag':
      case 'remove tag':
        return { act: name, tag: 'chased' };
      case 'move':
      case 'copy':
        return { act: name, projectId: choices.projects[0]?.id ?? null, sectionId: null };
      case 'comment':
        return { act: name, text: '‹task› was looked at.' };
      case 'follow-up':
        return {
          act: name,
          name: 'Follow up: ‹task›',
          description: '',
          owner: { who: 'owner' },
          due: { from: 'today', n: 2, unit: 'workday' },
          time: null,
          priority: null
        };
      case 'create section':
        return { act: name, name: 'Late' };
      case 'park':
        return { act: name, review: { from: 'today', n: 30, unit: 'day' } };
      case 'ring another':
        return { act: name, ruleId: choices.rules[0]?.id ?? 0 };
      default:
        return { act: name };
    }
  }
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
</script>

{#snippet assignee(choice: AssigneeChoice, set: (choice: AssigneeChoice) => void)}
  <select
    class="value"
    aria-label="To whom"
    value={assigneeKey(choice)}
    onchange={(event) => set(assigneeOf(event.currentTarget.value))}
  >
    <option value="owner">the task’s owner</option><option value="manager">the owner’s manager</option><option
      value="keeper">the rule’s keeper</option
    ><option value="actor">whoever acted</option><option value="creator">whoever made it</option><option
      value="role">a role of its project</option
    >
    {#each choices.people as { id, name } (id)}<option value="person {id}">{name}</option>{/each}
  </select>
  {#if choice.who === 'role'}<input
      class="value"
      aria-label="Which role"
      value={choice.role}
      onchange={(event) => set({ who: 'role', role: event.currentTarget.value.trim() })}
    />{/if}
{/snippet}

<div class="act">
  <select
    class="value"
    aria-label="What it changes"
    value={act.act}
    onchange={(event) => onchange(make(event.currentTarget.value as Act['act']))}
  >
    {#each offered as name (name)}<option value={name}>{LABELS[name]}</option>{/each}
  </select>
  {#if act.act === 'set status' || act.act === 'update open tasks'}
    <select
      class="value"
      aria-label="To which status"
      value={act.statusId}
      onchange={(event) => onchange({ ...act, statusId: Number(event.currentTarget.value) })}
    >
      {#each choices.statuses as { id, name } (id)}<option value={id}>{name}</option>{/each}
    </select>
  {:else if act.act === 'set priority'}
    <select
      class="value"
      aria-label="To which priority"
      value={act.priority}
      onchange={(event) => onchange({ ...act, priority: event.currentTarget.value as 'low' })}
    >
      {#each PRIORITIES as priority (priority)}<option>{priority}</option>{/each}
    </select>
  {:else if act.act === 'set percent'}
    <input
      class="value count"
      type="number"
      min="0"
      max="100"
      aria-label="To how many percent"
      value={act.percent}
      onchange={(event) => onchange({ ...act, percent: Number(event.currentTarget.value) })}
    />
  {:else if act.act === 'set field'}
    {@const field = choices.fields.find(({ id }) => id === act.fieldId)}
    <select
      class="value"
      aria-label="Which field it sets"
      value={act.fieldId}
      onchange={(event) => onchange({ ...act, fieldId: Number(event.currentTarget.value), value: null })}
    >
      {#each choices.fields as { id, name } (id)}<option value={id}>{name}</option>{/each}
    </select>
    {#if field?.kind === 'one choice'}
      <select
        class="value"
        aria-label="To which value"
        value={act.value ?? ''}
        onchange={(event) => onchange({ ...act, value: event.currentTarget.value || null })}
      >
        <option value="">nothing</option>{#each field.choices as choice (choice)}<option>{choice}</option
          >{/each}
      </select>
    {:else if field?.kind === 'yes or no'}
      <select
        class="value"
        aria-label="To which value"
        value={act.value === true ? 'yes' : act.value === false ? 'no' : ''}
        onchange={(event) =>
          onchange({
            ...act,
            value: event.currentTarget.value === '' ? null : event.currentTarget.value === 'yes'
          })}
      >
        <option value="">nothing</option><option>yes</option><option>no</option>
      </select>
    {:else}
      <input
        class="value"
        aria-label="To which value"
        type={field?.kind === 'number' ? 'number' : field?.kind === 'date' ? 'date' : 'text'}
        value={act.value ?? ''}
        onchange={(event) =>
          onchange({
            ...act,
            value:
              event.currentTarget.value === ''
                ? null
                : field?.kind === 'number' || field?.kind === 'person'
                  ? Number(event.currentTarget.value)
                  : event.currentTarget.value
          })}
      />
    {/if}
  {:else if act.act === 'set due' || act.act === 'set start'}
    <DateChoice date={act.date} onchange={(date) => onchange({ ...act, date })} />
    <TimeInput
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
    <select
      class="value"
      aria-label="To which project"
      value={String(act.projectId ?? '')}
      onchange={(event) =>
        onchange({
          ...act,
          projectId: event.currentTarget.value === '' ? null : Number(event.currentTarget.value),
          sectionId: null
        })}
    >
      <option value="">no project</option>{#each choices.projects as { id, name } (id)}<option
          value={String(id)}>{name}</option
        >{/each}
    </select>
    {#if sections.length > 0}<select
        class="value"
        aria-label="To which section"
        value={String(act.sectionId ?? '')}
        onchange={(event) =>
          onchange({
            ...act,
            sectionId: event.currentTarget.value === '' ? null : Number(event.currentTarget.value)
          })}
      >
        <option value="">no section</option>{#each sections as { id, name } (id)}<option value={String(id)}
            >{name}</option
          >{/each}
      </select>{/if}
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
      <TimeInput
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
    <select
      class="value"
      aria-label="Which rule"
      value={act.ruleId}
      onchange={(event) => onchange({ ...act, ruleId: Number(event.currentTarget.value) })}
    >
      {#each choices.rules as { id, name } (id)}<option value={id}>{name}</option>{/each}
    </select>
  {/if}
  <button type="button" class="button plain" aria-label="Take this change out" onclick={onremove}
    ><X size={14} /></button
  >
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
  .count,
  .act :global(.time) {
    width: 64px;
  }
  select {
    max-width: 220px;
  }
</style>
