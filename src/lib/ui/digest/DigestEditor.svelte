<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import {
    DIGEST_ABOUT,
    LONGEST_OPENING,
    LONGEST_SUBJECT,
    type DigestDefinition,
    type DigestSchedule
  } from '$lib/core/digest/model.ts';
  import { ATTACHMENTS, TABLE_FIELDS } from '$lib/core/rule/step-model.ts';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { plainOptions, wordOptions } from '$lib/ui/pick/option.ts';
  import Line from '$lib/ui/rule/Line.svelte';
  import Part from '$lib/ui/rule/Part.svelte';
  import WatchFields from '$lib/ui/watch/WatchFields.svelte';
  import ScheduleLine from '$lib/ui/schedule/ScheduleLine.svelte';
  import { ABOUT_WORDS } from '$lib/view/digests.ts';
  import DigestReaders from './DigestReaders.svelte';
  import DigestSections from './DigestSections.svelte';

  type Named = { id: number; name: string };
  /** What a digest says, as ruled blocks of labelled values. */
  interface Props {
    definition: DigestDefinition;
    choices: {
      people: readonly Named[];
      groups: readonly Named[];
      readers: readonly Named[];
      projects: readonly Named[];
      lists: readonly (Named & { unfit: string | null })[];
      tags: readonly string[];
    };
    /** How many read it now. */
    readers: number;
    /** The workspace’s day, from which a schedule counts. */
    today: string;
  }

  let { definition = $bindable(), choices, readers, today }: Props = $props();
  const set = (patch: Partial<DigestDefinition>) => (definition = { ...definition, ...patch });
  const watch = $derived(definition.watch);
  const setWatch = (patch: Partial<DigestDefinition['watch']>) => set({ watch: { ...watch, ...patch } });
  const setWhen = (patch: Partial<DigestSchedule>) =>
    definition.when.by === 'schedule' && set({ when: { ...definition.when, ...patch } });

  function setBy(by: 'own hours' | 'schedule') {
    if (by === definition.when.by) return;
    set({
      when:
        by === 'own hours'
          ? { by }
          : {
              ...{ by, rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', start: today, time: '19:00' },
              ...{ zone: null, closedDay: 'skip' }
            },
      ...(by === 'own hours' ? { gather: 'each' as const } : {})
    });
  }

  /** Of others’ work each row names its owner, unless that was taken out. */
  function columnsFor(about: DigestDefinition['about']): DigestDefinition['columns'] {
    const { columns } = definition;
    if (about === 'own' || definition.about !== 'own' || columns.some(({ field }) => field === 'owner'))
      return columns;
    const [first, ...rest] = columns;
    return first ? [first, { field: 'owner', caption: '' }, ...rest] : columns;
  }

  const FILES = { calendar: 'the dates as a calendar', table: 'all rows as a table' } as const;
</script>

<Part title="When">
  <Line label="when">
    <Pick
      label="When it is sent"
      options={wordOptions({
        'own hours': 'at each recipient’s own digest times',
        schedule: 'on a schedule'
      })}
      value={definition.when.by}
      onchange={setBy}
    />
  </Line>
  {#if definition.when.by === 'schedule'}
    <ScheduleLine when={definition.when} of="the digest" onchange={setWhen} />
  {:else}
    <p class="quiet">
      On their working days, not during leave. Each person sets the times on their own page.
    </p>
  {/if}
</Part>

<Part title="To" count="{many(readers, 'person', 'people')} now">
  <Line label="recipients" group="Recipients">
    <DigestReaders {...choices} to={definition.to} onchange={(to) => set({ to })} />
  </Line>
  <Line label="messages">
    <Pick
      label="One message each, or one for all"
      options={[
        { value: 'each', label: 'one message each' },
        {
          value: 'together',
          label: 'one message for all',
          unfit: definition.about === 'everybody' ? null : 'needs “everybody’s work”'
        }
      ]}
      value={definition.gather}
      onchange={(gather) => set({ gather })}
    />
  </Line>
  <Line label="if empty">
    <Pick
      label="When empty"
      options={wordOptions({ skip: 'send nothing', 'all clear': 'send “all clear”' })}
      value={definition.empty}
      onchange={(empty) => set({ empty })}
    />
  </Line>
</Part>

<Part title="Watch">
  <Line label="tasks of">
    <Pick
      label="Whose work"
      options={DIGEST_ABOUT.map((value) => ({ value, label: ABOUT_WORDS[value] }))}
      value={definition.about}
      onchange={(about) =>
        set({
          about,
          columns: columnsFor(about),
          ...(about === 'everybody' ? {} : { gather: 'each' as const })
        })}
    />
  </Line>
  <WatchFields {watch} {choices} of="the digest" onchange={setWatch} />
</Part>

<Part title="Contents">
  <DigestSections
    sections={definition.sections}
    nextWorkingDays={definition.nextWorkingDays}
    table={definition.table}
    lists={choices.lists}
    ontable={(patch) => set({ table: { ...definition.table, ...patch } })}
    onchange={(sections) => set({ sections })}
    onnext={(nextWorkingDays) => set({ nextWorkingDays })}
  />
  <Line label="subject">
    <input
      class="value grow"
      aria-label="Subject"
      placeholder="its name and the counts; ‹counts› inserts them"
      maxlength={LONGEST_SUBJECT}
      value={definition.subject}
      onchange={(event) => set({ subject: event.currentTarget.value.trim() })}
    />
    <Pick
      label="Importance"
      still
      options={wordOptions({ ordinary: 'importance: normal', high: 'importance: high' })}
      value={definition.importance}
      onchange={(importance) => set({ importance })}
    />
  </Line>
  <Line label="first words">
    <textarea
      class="value grow"
      rows="2"
      aria-label="First words"
      placeholder="after the greeting; empty: none"
      maxlength={LONGEST_OPENING}
      value={definition.opening}
      onchange={(event) => set({ opening: event.currentTarget.value.trim() })}></textarea>
  </Line>
  <Line label="columns">
    <PickMany
      label="Columns"
      between=""
      options={plainOptions(TABLE_FIELDS.filter((field) => field !== 'link'))}
      chosen={definition.columns.map(({ field }) => field)}
      onchange={(chosen) =>
        set({
          columns: TABLE_FIELDS.filter((field) => field === 'task' || chosen.includes(field)).map(
            (field) => definition.columns.find((column) => column.field === field) ?? { field, caption: '' }
          )
        })}
    />
  </Line>
  <Line label="files">
    <PickMany
      label="Attached files"
      between="and"
      blank="no file"
      options={wordOptions(FILES)}
      chosen={definition.attach}
      onchange={(chosen) => set({ attach: ATTACHMENTS.filter((file) => chosen.includes(file)) })}
    />
  </Line>
</Part>

<style>
  .grow {
    flex: 1 1 260px;
  }
</style>
