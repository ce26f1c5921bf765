<script lang="ts">
  import { FIELDS, FIELD_NAMES } from '$lib/core/message/fields.ts';
  import {
    ATTACHMENTS,
    TABLE_FIELDS,
    type Attachment,
    type TableField,
    type Tell
  } from '$lib/core/rule/model.ts';
  import Choices from './Choices.svelte';
  import Line from './Line.svelte';
  import Recipients from './Recipients.svelte';
  import type { RuleChoices } from './choices.ts';

  /** Who hears, how, and in which words. */
  interface Props {
    step: Tell;
    choices: RuleChoices;
    /** Whether it is the only Tell of its rule: then its labels need no number. */
    suffix: string;
    onchange: (step: Tell) => void;
  }

  let { step, choices, suffix, onchange }: Props = $props();
  const set = (patch: Partial<Tell>) => onchange({ ...step, ...patch });
  const FILE_WORDS: Record<Attachment, string> = {
    calendar: 'dates as a calendar file',
    table: 'the table as CSV'
  };
  let lastWords = $state<'subject' | 'body'>('body');
  const id = $props.id();
  const outside = $derived(step.to.some(({ who }) => who === 'contacts' || who === 'address'));

  function insertField(name: string) {
    const element = document.getElementById(`${id}-${lastWords}`) as HTMLInputElement | HTMLTextAreaElement;
    const start = element.selectionStart ?? element.value.length;
    const end = element.selectionEnd ?? start;
    const field = `‹${name}›`;
    set({ [lastWords]: element.value.slice(0, start) + field + element.value.slice(end) });
    requestAnimationFrame(() => {
      element.focus();
      element.setSelectionRange(start + field.length, start + field.length);
    });
  }
  const columns = $derived(step.columns.map(({ field }) => field));
  const setColumns = (chosen: TableField[]) =>
    set({
      columns: chosen.map(
        (field) => step.columns.find((one) => one.field === field) ?? { field, caption: '' }
      )
    });
</script>

<Line label="who"><Recipients to={step.to} {choices} onchange={(to) => set({ to })} /></Line>
<Line label="when">
  <span class="quiet">by mail,</span>
  <select
    class="value"
    aria-label="When they may be told{suffix}"
    value={step.reach}
    onchange={(event) => set({ reach: event.currentTarget.value as Tell['reach'] })}
  >
    <option value="working hours">held to their working hours</option>
    <option value="outside quiet hours">held until their quiet hours end</option>
    <option value="any time">at any time</option>
  </select>
  <label
    ><input
      type="checkbox"
      checked={step.fold}
      onchange={(event) => set({ fold: event.currentTarget.checked })}
    /> kept for their next gathered message</label
  >
</Line>
<Line label="on leave">
  <select
    class="value"
    aria-label="While they are on leave{suffix}"
    value={step.away}
    onchange={(event) => set({ away: event.currentTarget.value as Tell['away'] })}
  >
    <option value="stand-in">their stand-in hears, without one their manager</option>
    <option value="pass">their manager hears</option>
    <option value="wait">it waits until they are back</option>
  </select>
</Line>
<Line label="gather">
  <select
    class="value"
    aria-label="How tasks are gathered{suffix}"
    value={step.gather}
    onchange={(event) => set({ gather: event.currentTarget.value as Tell['gather'] })}
  >
    <option value="per recipient" disabled={outside}>one message for each person</option>
    <option value="per task">one message for each task</option>
    <option value="together">one message to all together</option>
  </select>
  <select
    class="value"
    aria-label="What it passes{suffix}"
    value={step.force ?? ''}
    onchange={(event) => set({ force: (event.currentTarget.value || null) as Tell['force'] })}
  >
    <option value="">heeds everything people set</option>
    <option value="urgent">urgent: passes hours, caps and folding</option>
    <option value="must">a must: passes “no reminder”, caps and folding</option>
  </select>
</Line>
<Line label="along">
  <select
    class="value"
    aria-label="How it is marked{suffix}"
    value={step.importance}
    onchange={(event) => set({ importance: event.currentTarget.value as Tell['importance'] })}
  >
    <option value="ordinary">of ordinary importance</option>
    <option value="high">marked as important</option>
  </select>
  {#each ATTACHMENTS as file (file)}
    <label
      ><input
        type="checkbox"
        checked={step.attach.includes(file)}
        disabled={file === 'table' && outside && !step.attach.includes(file)}
        onchange={(event) =>
          set({
            attach: ATTACHMENTS.filter((one) =>
              one === file ? event.currentTarget.checked : step.attach.includes(one)
            )
          })}
      />
      {FILE_WORDS[file]}{suffix}</label
    >
  {/each}
</Line>
<Line label="subject">
  <input
    id="{id}-subject"
    class="value wide"
    aria-label="Subject{suffix}"
    maxlength="500"
    value={step.subject}
    oninput={(event) => set({ subject: event.currentTarget.value })}
    onfocus={() => (lastWords = 'subject')}
  />
</Line>
<Line label="words">
  <textarea
    id="{id}-body"
    class="value wide"
    rows="6"
    aria-label="Words{suffix}"
    value={step.body}
    oninput={(event) => set({ body: event.currentTarget.value })}
    onfocus={() => (lastWords = 'body')}></textarea>
</Line>
<Line label="fields">
  <select
    class="value"
    aria-label="Insert a merge field{suffix}"
    value=""
    onchange={(event) => {
      if (event.currentTarget.value) insertField(event.currentTarget.value);
      event.currentTarget.value = '';
    }}
  >
    <option value="">insert a field…</option>
    {#each FIELD_NAMES as name (name)}<option value={name}>‹{name}› {FIELDS[name].label}</option>{/each}
  </select>
  {#if choices.templates.length > 0}
    <select
      class="value"
      aria-label="Take the words of a template{suffix}"
      value=""
      onchange={(event) => {
        const template = choices.templates.find(({ id: one }) => String(one) === event.currentTarget.value);
        if (template) set({ subject: template.subject, body: template.body });
        event.currentTarget.value = '';
      }}
    >
      <option value="">words of a template…</option>
      {#each choices.templates as { id: one, name } (one)}<option value={String(one)}>{name}</option>{/each}
    </select>
  {/if}
  <span class="quiet">‹due, else no date yet› says what stands there without one</span>
</Line>
{#if step.gather !== 'per task'}
  <Line label="several">
    <details>
      <summary class="quiet">where several tasks are in one message: “{step.several.subject}”</summary>
      <input
        class="value wide"
        aria-label="Heading where there are several{suffix}"
        maxlength="500"
        value={step.several.subject}
        oninput={(event) => set({ several: { ...step.several, subject: event.currentTarget.value } })}
      />
      <textarea
        class="value wide"
        rows="3"
        aria-label="Text where there are several{suffix}"
        value={step.several.body}
        oninput={(event) => set({ several: { ...step.several, body: event.currentTarget.value } })}
      ></textarea>
      <Choices
        legend="Columns of the table"
        options={TABLE_FIELDS.map((field) => ({ value: field, label: field }))}
        chosen={columns}
        onchange={setColumns}
      />
      <div class="captions">
        {#each step.columns as column (column.field)}
          <input
            class="value"
            placeholder={column.field}
            aria-label="Caption of the column {column.field}"
            maxlength="60"
            value={column.caption}
            onchange={(event) =>
              set({
                columns: step.columns.map((one) =>
                  one.field === column.field ? { ...one, caption: event.currentTarget.value } : one
                )
              })}
          />
        {/each}
      </div>
    </details>
  </Line>
{/if}

<style>
  .wide {
    flex: 1;
    width: 100%;
  }
  details {
    width: 100%;
  }
  details :global(> *) {
    margin-top: 4px;
  }
  summary {
    cursor: pointer;
  }
  .captions {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
  }
  .captions input {
    width: 96px;
  }
  input[type='checkbox'] {
    accent-color: var(--brass-deep);
  }
  select {
    max-width: 300px;
  }
</style>
