<script lang="ts">
  import { OPS, TESTED, conditionKindOf, type Op, type Test } from '$lib/core/rule/condition.ts';
  import type { ConditionKind } from '$lib/core/rule/condition.ts';
  import { PHASES, PRIORITIES } from '$lib/core/task/model.ts';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { namedOptions, plainOptions, type Option } from '$lib/ui/pick/option.ts';
  import TakeOut from './TakeOut.svelte';
  import type { RuleChoices } from './choices.ts';
  import { fieldKey, newTest, testedOptions } from './tests.ts';
  import DateField from '../form/date/DateField.svelte';

  /** One test: a field, how it is compared, and with what. */
  interface Props {
    test: Test;
    choices: RuleChoices;
    onchange: (test: Test) => void;
    onremove: () => void;
  }

  let { test, choices, onchange, onremove }: Props = $props();

  const own = $derived(
    typeof test.field === 'object'
      ? choices.fields.find(({ id }) => id === (test.field as { own: number }).own)
      : undefined
  );
  const kind = $derived<ConditionKind>(
    typeof test.field === 'object' ? (own ? conditionKindOf(own.kind) : 'text') : TESTED[test.field].kind
  );
  const bare = $derived(test.op === 'is empty' || test.op === 'is not empty' || kind === 'yes or no');
  const counted = $derived(kind === 'date' && !['on', 'before', 'after'].includes(test.op));
  const list = $derived(test.value == null ? [] : Array.isArray(test.value) ? test.value : [test.value]);

  /** What can be chosen, where the value is one of a few. */
  const options = $derived.by((): Option[] => {
    if (test.op === 'in group') return namedOptions(choices.groups);
    if (kind === 'person') return namedOptions(choices.people);
    if (own) return plainOptions(own.choices);
    switch (test.field) {
      case 'status':
        return namedOptions(choices.statuses);
      case 'project':
        return namedOptions(choices.projects);
      case 'section':
        return namedOptions(choices.sections);
      case 'phase':
        return plainOptions(PHASES);
      case 'priority':
        return plainOptions(PRIORITIES);
      case 'tag':
        return plainOptions(choices.tags);
      default:
        return [];
    }
  });
  const many = $derived(test.op === 'any of' || test.op === 'none of');

  function setOp(op: Op) {
    const stays =
      (op === 'any of' || op === 'none of') === many && (op === 'in group') === (test.op === 'in group');
    const dated = ['on', 'before', 'after'];
    const sameDate = kind !== 'date' || dated.includes(op) === dated.includes(test.op);
    onchange({
      ...test,
      op,
      value: stays && sameDate ? test.value : kind === 'date' ? (dated.includes(op) ? 'today' : 3) : null
    });
  }
</script>

<div class="test">
  <Pick
    label="Field"
    options={testedOptions(choices)}
    value={fieldKey(test.field)}
    onchange={(key) => onchange(newTest(key, choices))}
  />
  <Pick
    label="How it is compared"
    still
    options={OPS[kind].map((op) => ({ value: op, label: op }))}
    value={test.op}
    onchange={setOp}
  />
  {#if bare}{:else if counted || kind === 'number'}
    <NumberValue
      label="Compared with"
      blank="a number"
      min={kind === 'number' ? -100_000 : 0}
      value={typeof test.value === 'number' ? test.value : null}
      onchange={(value) => onchange({ ...test, value })}
    />
  {:else if kind === 'date'}
    <Pick
      label="Which day"
      options={[
        { value: 'today', label: 'the day of the ring' },
        { value: 'date', label: 'a date' }
      ]}
      value={test.value === 'today' ? 'today' : 'date'}
      onchange={(which) => onchange({ ...test, value: which === 'today' ? 'today' : choices.today })}
    />
    {#if test.value !== 'today'}<DateField
        live
        label="Compared with"
        value={String(test.value ?? '')}
        onchange={(day) => onchange({ ...test, value: day ?? '' })}
        onfault={(typed) => onchange({ ...test, value: typed })}
      />{/if}
  {:else if options.length > 0 && many}
    <PickMany
      label="Compared with"
      {options}
      chosen={list}
      onchange={(value) => onchange({ ...test, value })}
    />
  {:else if options.length > 0}
    <Pick
      label="Compared with"
      {options}
      value={list[0] ?? null}
      onchange={(value) => onchange({ ...test, value })}
    />
  {:else}
    <input
      class="value grow"
      aria-label="Compared with"
      maxlength="500"
      value={list.join(', ')}
      onchange={(event) =>
        onchange({
          ...test,
          value: many
            ? event.currentTarget.value.split(',').map((one) => one.trim())
            : event.currentTarget.value
        })}
    />
  {/if}
  <TakeOut label="Remove this test" onclick={onremove} />
</div>

<style>
  .test {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    align-items: center;
  }
  .grow {
    flex: 1 1 120px;
  }
</style>
