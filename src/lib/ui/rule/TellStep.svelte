<script lang="ts">
  import { FIELDS, FIELD_NAMES, OUTSIDE_FIELDS, type FieldName } from '$lib/core/message/fields.ts';
  import { CHANNEL, type ChannelName } from '$lib/core/channel/channels.ts';
  import { ATTACHMENTS, type Attachment, type Tell } from '$lib/core/rule/step-model.ts';
  import {
    AWAY_CHOICES,
    FOLD_CHOICES,
    FORCE_CHOICES,
    GATHER_CHOICES,
    REACH_CHOICES
  } from '$lib/core/rule/words/choice-words.ts';
  import FieldText from '$lib/ui/words/FieldText.svelte';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { wordOptions, type Option } from '$lib/ui/pick/option.ts';
  import type { WordsView } from '$lib/view/rule-trials.ts';
  import Line from './Line.svelte';
  import Recipients from './Recipients.svelte';
  import SeveralPart from './SeveralPart.svelte';
  import WordsPreview from './WordsPreview.svelte';
  import type { RuleChoices } from './choices.ts';

  /** Who hears, how, and in which words. */
  interface Props {
    step: Tell;
    choices: RuleChoices;
    leads: readonly { id: string; label: string }[];
    /** Tells its labels apart from those of other Tells. */
    suffix: string;
    words: WordsView | null;
    tasks: readonly { id: number; name: string }[];
    ontask: (id: number) => void;
    onchange: (step: Tell) => void;
  }

  let { step, choices, leads, suffix, words, tasks, ontask, onchange }: Props = $props();
  const set = (patch: Partial<Tell>) => onchange({ ...step, ...patch });
  const outside = $derived(step.to.some(({ who }) => who === 'contacts' || who === 'address'));
  const fields = $derived<readonly FieldName[]>(outside ? OUTSIDE_FIELDS : FIELD_NAMES);
  let subject = $state<FieldText>();
  let body = $state<FieldText>();
  /** Where a field goes that is picked. */
  let last = $state<'subject' | 'body'>('body');

  const gathers = $derived<Option<Tell['gather']>[]>([
    {
      value: 'per recipient',
      label: GATHER_CHOICES['per recipient'],
      unfit: outside ? 'not for outside contacts' : null
    },
    { value: 'per task', label: GATHER_CHOICES['per task'] },
    { value: 'together', label: GATHER_CHOICES.together }
  ]);
  const HEEDS = {
    '': 'people’s own settings apply',
    ...FORCE_CHOICES
  };
  const files = $derived<Option<Attachment>[]>([
    { value: 'calendar', label: 'dates as a calendar file' },
    { value: 'table', label: 'the table as CSV', unfit: outside ? 'not for outside contacts' : null }
  ]);
  const channels = $derived<Option<ChannelName>[]>(
    choices.channels.map(({ channel, unfit }) => ({ value: channel, label: CHANNEL[channel].words, unfit }))
  );
  /** In the app alone nobody is disturbed, so it need not wait for anybody's hours. */
  function insist(chosen: ChannelName[]) {
    const onlyInApp = chosen.length === 1 && chosen[0] === 'in-app';
    set({ channels: chosen.length === 0 ? null : chosen, ...(onlyInApp ? { reach: 'any time' } : {}) });
  }
  const templates = $derived<Option<string>[]>([
    ...choices.lastWords.map(({ rule }, i) => ({
      value: `last ${i}`,
      label: `as in “${rule}”`,
      group: 'Used last'
    })),
    ...choices.templates.map(({ id, name }) => ({
      value: `template ${id}`,
      label: name,
      group: 'Templates'
    }))
  ]);
  function take(key: string) {
    const [from = '', which = ''] = key.split(' ');
    const found =
      from === 'last'
        ? choices.lastWords[Number(which)]
        : choices.templates.find(({ id }) => String(id) === which);
    if (found) set({ subject: found.subject, body: found.body });
  }
</script>

<Line label="who"><Recipients to={step.to} {choices} {leads} onchange={(to) => set({ to })} /></Line>
<Line label="by">
  <PickMany
    label="Fixed channels{suffix}"
    between="and"
    blank="their own channel"
    options={channels}
    chosen={step.channels ?? []}
    onchange={insist}
  />
  <Pick
    label="When they may be told{suffix}"
    options={wordOptions(REACH_CHOICES)}
    value={step.reach}
    onchange={(reach) => set({ reach })}
  />
</Line>
<Line label="on leave">
  <Pick
    label="While they are on leave{suffix}"
    still
    options={wordOptions(AWAY_CHOICES)}
    value={step.away}
    onchange={(away) => set({ away })}
  />
</Line>
<Line label="messages">
  <Pick
    label="How tasks are combined{suffix}"
    options={gathers}
    value={step.gather}
    onchange={(gather) => set({ gather })}
  />
  <Pick
    label="On its own or in a digest{suffix}"
    still
    options={wordOptions(FOLD_CHOICES)}
    value={step.fold ? 'fold' : 'alone'}
    onchange={(how) => set({ fold: how === 'fold' })}
  />
</Line>
<Line label="limits">
  <Pick
    label="What it ignores{suffix}"
    still
    options={wordOptions(HEEDS)}
    value={step.force ?? ''}
    onchange={(force) => set({ force: force || null })}
  />
</Line>
<Line label="extras">
  <Pick
    label="Importance{suffix}"
    still
    options={wordOptions({ ordinary: 'importance: normal', high: 'importance: high' })}
    value={step.importance}
    onchange={(importance) => set({ importance })}
  />
  <PickMany
    label="Attached files{suffix}"
    between="and"
    blank="no attachment"
    options={files}
    chosen={step.attach}
    onchange={(chosen) => set({ attach: ATTACHMENTS.filter((file) => chosen.includes(file)) })}
  />
</Line>
<Line label="words">
  <div class="sheet">
    <FieldText
      bind:this={subject}
      label="Subject{suffix}"
      oneLine
      {fields}
      text={step.subject}
      onfocus={() => (last = 'subject')}
      onchange={(text) => set({ subject: text })}
    />
    <FieldText
      bind:this={body}
      label="Words{suffix}"
      {fields}
      text={step.body}
      onfocus={() => (last = 'body')}
      onchange={(text) => set({ body: text })}
    />
  </div>
  <AddMenu
    caption="Insert a field"
    label="Insert a field{suffix}"
    options={fields.map((name) => ({ value: name, label: `‹${name}› ${FIELDS[name].label}` }))}
    onadd={(name) => (last === 'subject' ? subject : body)?.insert(name)}
  />
  {#if templates.length > 0}
    <AddMenu caption="Use a text" label="Use a text{suffix}" options={templates} onadd={take} />
  {/if}
  <span class="quiet">or type ‹ or &lt; where a field goes</span>
</Line>
{#if words}
  <Line label="preview"><WordsPreview {words} {tasks} {suffix} {ontask} /></Line>
{/if}
{#if step.gather !== 'per task'}<SeveralPart {step} {suffix} {fields} onchange={set} />{/if}

<style>
  .sheet {
    width: 100%;
    border-radius: 7px;
  }
</style>
