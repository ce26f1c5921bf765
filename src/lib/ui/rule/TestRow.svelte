<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import {
    OPS,
    TESTED,
    conditionKindOf,
    type ConditionKind,
    type Op,
    type Test,
    type TestedField
  } from '$lib/core/rule/condition.ts';
  import { PHASES, PRIORITIES } from '$lib/core/rule/model.ts';
  import type { RuleChoices } from './choices.ts';

  /** One test: a field, how it is compared, and with what. */
  interface Props {
    test: Test;
    choices: RuleChoices;
    onchange: (test: Test) => void;
    onremove: () => void;
  }

  let { test, choices, onchange, onremove }: Props = $props();

  const key = $derived(typeof test.field === 'object' ? `own ${test.field.own}` : test.field);
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
  const options = $derived.by((): { value: string | number; label: string }[] => {
    const named = (all: readonly { id: number; name: string }[]) =>
      all.map(({ id, name }) => ({ value: id, label: name }));
    const plain = (all: readonly string[]) => all.map((one) => ({ value: one, label: one }));
    if (test.op === 'in group') return named(choices.groups);
    if (kind === 'person') return named(choices.people);
    if (own) return plain(own.choices);
    switch (test.field) {
      case 'status':
        return named(choices.statuses);
      case 'project':
        return named(choices.projects);
      case 'section':
        return named(choices.sections);
      case 'phase':
        return plain(PHASES);
      case 'priority':
        return plain(PRIORITIES);
      case 'tag':
        return plain(choices.tags);
      default:
        return [];
    }
  });
  const many = $derived(test.op === 'any of' || test.op === 'none of');

  function setField(to: string) {
    const field: TestedField = to.startsWith('own ')
      ? { own: Number(to.slice(4)) }
      : (to as keyof typeof TESTED);
    const of = to.startsWith('own ')
      ? conditionKindOf(choices.fields.find(({ id }) => id === Number(to.slice(4)))!.kind)
      : TESTED[field as keyof typeof TESTED].kind;
    onchange({ field, op: OPS[of][0]!, value: of === 'date' ? 'today' : null });
  }
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
  const asValue = (text: string): string | number =>
    options.length > 0 && typeof options[0]!.value === 'number' ? Number(text) : text;
</script>

<div class="test">
  <select
    class="value"
    aria-label="What is tested"
    value={key}
    onchange={(event) => setField(event.currentTarget.value)}
  >
    {#each Object.entries(TESTED) as [name, { label }] (name)}<option value={name}>{label}</option>{/each}
    {#each choices.fields as field (field.id)}<option value="own {field.id}">{field.name}</option>{/each}
  </select>
  <select
    class="value"
    aria-label="How it is compared"
    value={test.op}
    onchange={(event) => setOp(event.currentTarget.value as Op)}
  >
    {#each OPS[kind] as op (op)}<option>{op}</option>{/each}
  </select>
  {#if bare}{:else if counted || kind === 'number'}
    <input
      class="value count"
      type="number"
      aria-label="Compared with"
      value={test.value ?? ''}
      onchange={(event) =>
        onchange({
          ...test,
          value: event.currentTarget.value === '' ? null : Number(event.currentTarget.value)
        })}
    />
  {:else if kind === 'date'}
    <select
      class="value"
      aria-label="Which day"
      value={test.value === 'today' ? 'today' : 'date'}
      onchange={(event) =>
        onchange({ ...test, value: event.currentTarget.value === 'today' ? 'today' : choices.today })}
    >
      <option value="today">the day of the ring</option><option value="date">a date</option>
    </select>
    {#if test.value !== 'today'}<input
        class="value"
        type="date"
        aria-label="Compared with"
        value={test.value ?? ''}
        onchange={(event) => onchange({ ...test, value: event.currentTarget.value })}
      />{/if}
  {:else if options.length > 0 && many}
    <select
      class="value"
      multiple
      size={Math.min(4, options.length)}
      aria-label="Compared with"
      onchange={(event) =>
        onchange({
          ...test,
          value: [...event.currentTarget.selectedOptions].map(({ value }) => asValue(value))
        })}
    >
      {#each options as { value, label } (value)}<option {value} selected={list.includes(value)}
          >{label}</option
        >{/each}
    </select>
  {:else if options.length > 0}
    <select
      class="value"
      aria-label="Compared with"
      value={list[0] ?? ''}
      onchange={(event) => onchange({ ...test, value: asValue(event.currentTarget.value) })}
    >
      <option value="" disabled>choose</option>
      {#each options as { value, label } (value)}<option {value}>{label}</option>{/each}
    </select>
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
  <button type="button" class="button plain" aria-label="Take this test out" onclick={onremove}
    ><X size={14} /></button
  >
</div>

<style>
  .test {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    align-items: center;
  }
  .count {
    width: 70px;
  }
  .grow {
    flex: 1 1 120px;
  }
  select {
    max-width: 190px;
  }
</style>
