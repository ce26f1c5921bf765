<script lang="ts">
  import { many } from '$lib/core/many.ts';
  import { DIGEST_ABOUT, type DigestDefinition, type DigestSchedule } from '$lib/core/digest/model.ts';
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
      lists: readonly Named[];
      tags: readonly string[];
      zones: readonly string[];
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

  const FILES = { calendar: 'the dates as a calendar', table: 'all rows as a table' } as const;
</script>

<Part title="Leaves">
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
    <ScheduleLine when={definition.when} of="the digest" zones={choices.zones} onchange={setWhen} />
  {:else}
    <p class="quiet">
      On their working days, not during leave. Each person sets the times on their own page.
    </p>
  {/if}
</Part>

<Part title="To" count="{many(readers, 'person', 'people')} now">
  <Line label="readers" group="Readers">
    <DigestReaders {...choices} to={definition.to} onchange={(to) => set({ to })} />
  </Line>
  <Line label="gathers">
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
  <Line label="nothing">
    <Pick
      label="When empty"
      options={wordOptions({ skip: 'When empty: send nothing', 'all clear': 'When empty: “all clear”' })}
      value={definition.empty}
      onchange={(empty) => set({ empty })}
    />
  </Line>
</Part>

<Part title="Watch">
  <Line label="about">
    <Pick
      label="Whose work"
      options={DIGEST_ABOUT.map((value) => ({ value, label: ABOUT_WORDS[value] }))}
      value={definition.about}
      onchange={(about) => set(about === 'everybody' ? { about } : { about, gather: 'each' })}
    />
  </Line>
  <WatchFields {watch} {choices} of="the digest" onchange={setWatch} />
</Part>

<Part title="Contents">
  <DigestSections
    sections={definition.sections}
    nextWorkingDays={definition.nextWorkingDays}
    onchange={(sections) => set({ sections })}
    onnext={(nextWorkingDays) => set({ nextWorkingDays })}
  />
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
