<script lang="ts">
  import { ANCHORS } from '$lib/core/anchor/anchors.ts';
  import { ONCE_DATES, type OnceFor, type ScheduleLead } from '$lib/core/rule/lead-model.ts';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import type { Option } from '$lib/ui/pick/option.ts';
  import type { RuleChoices } from './choices.ts';
  import DateField from '../form/date/DateField.svelte';

  /** How often a schedule rings for a task that it finds: each time, or once for each value of one of its dates. */
  interface Props {
    lead: ScheduleLead;
    choices: RuleChoices;
    onchange: (lead: ScheduleLead) => void;
  }

  let { lead, choices, onchange }: Props = $props();
  const dated = $derived(choices.fields.filter(({ kind }) => kind.startsWith('date')));
  const FIELDS = ONCE_DATES.flatMap((date): Option<string>[] =>
    date === 'own date' ? [] : [{ value: date, label: ANCHORS[date].day }]
  );
  /** Of a range each end is a date of its own. */
  const dates = $derived<Option<string>[]>([
    ...FIELDS,
    ...dated.flatMap(({ id, name, kind }) =>
      kind === 'date range'
        ? [
            { value: `${id} from`, label: `${name} (its start)` },
            { value: `${id} until`, label: `${name} (its end)` }
          ]
        : [{ value: `${id} from`, label: name }]
    )
  ]);
  const chosen = $derived(
    lead.onceFor?.field ? `${lead.onceFor.field.id} ${lead.onceFor.field.end}` : (lead.onceFor?.date ?? 'due')
  );

  function setOften(how: string) {
    const { onceFor: _onceFor, since: _since, ...rest } = lead;
    onchange(how === 'each' ? { ...rest, oncePerDate: false } : { ...lead, oncePerDate: true });
  }
  function setDate(of: string) {
    const [id, end] = of.split(' ');
    const field = { id: Number(id), end: end as 'from' | 'until' };
    const onceFor: OnceFor = Number.isNaN(field.id)
      ? { date: of as OnceFor['date'] }
      : { date: 'own date', field };
    onchange({ ...lead, onceFor });
  }
  function setWhich(which: string) {
    const { since, ...rest } = lead;
    onchange(which === 'any' ? rest : { ...lead, since: since ?? choices.today });
  }
</script>

<Pick
  label="How often it finds a task"
  still
  options={[
    { value: 'each', label: 'every time a task matches' },
    { value: 'once', label: 'once per task and date' }
  ]}
  value={lead.oncePerDate ? 'once' : 'each'}
  onchange={setOften}
/>
{#if lead.oncePerDate}
  <span class="quiet">for its</span>
  <Pick label="Once for which date" options={dates} value={chosen} onchange={setDate} />
  <Pick
    label="Which of these dates"
    still
    options={[
      { value: 'any', label: 'any date' },
      { value: 'come', label: 'dates that have passed' }
    ]}
    value={lead.since === undefined ? 'any' : 'come'}
    onchange={setWhich}
  />
  {#if lead.since !== undefined}
    <span class="quiet">from</span>
    <DateField
      live
      label="First date that counts"
      value={lead.since}
      onchange={(since) => since !== null && onchange({ ...lead, since })}
      onfault={(since) => onchange({ ...lead, since })}
    />
  {/if}
{/if}
