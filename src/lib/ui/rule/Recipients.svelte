<script lang="ts">
  import Plus from '@lucide/svelte/icons/plus';
  import X from '@lucide/svelte/icons/x';
  import type { Recipient } from '$lib/core/rule/model.ts';
  import type { RuleChoices } from './choices.ts';

  /** Who is told: one line for each, and whether they get a copy only. */
  interface Props {
    to: readonly Recipient[];
    choices: RuleChoices;
    onchange: (to: Recipient[]) => void;
  }

  let { to, choices, onchange }: Props = $props();

  const WHO: [string, string][] = [
    ['owner', 'the owner'],
    ['manager', 'the owner’s manager'],
    ['manager 2', 'two levels above the owner'],
    ['creator', 'whoever made it'],
    ['keeper', 'the rule’s keeper'],
    ['coordinator', 'the coordinators'],
    ['members', 'the project’s members'],
    ['actor', 'whoever acted'],
    ['person', 'a person'],
    ['group', 'a group'],
    ['field', 'the people in a field'],
    ['readers', 'a reader list'],
    ['contacts', 'its outside contacts'],
    ['address', 'an address']
  ];
  const keyOf = (one: Recipient) => (one.who === 'manager' && one.up > 1 ? 'manager 2' : one.who);
  const peopleFields = $derived(choices.fields.filter(({ kind }) => kind === 'person' || kind === 'people'));

  function make(key: string): Recipient | null {
    switch (key) {
      case 'manager':
        return { who: 'manager', up: 1 };
      case 'manager 2':
        return { who: 'manager', up: 2 };
      case 'members':
        return { who: 'members', role: null };
      case 'person':
        return choices.people[0] ? { who: 'person', id: choices.people[0].id } : null;
      case 'group':
        return choices.groups[0] ? { who: 'group', id: choices.groups[0].id } : null;
      case 'field':
        return peopleFields[0] ? { who: 'field', id: peopleFields[0].id } : null;
      case 'readers':
        return choices.readers[0] ? { who: 'readers', id: choices.readers[0].id } : null;
      case 'address':
        return { who: 'address', address: '' };
      default:
        return { who: key as 'owner' };
    }
  }
  const offered = $derived(
    WHO.filter(
      ([key]) =>
        (key !== 'group' || choices.groups.length > 0) &&
        (key !== 'field' || peopleFields.length > 0) &&
        (key !== 'readers' || choices.readers.length > 0)
    )
  );
  const replace = (i: number, one: Recipient | null) =>
    onchange(to.flatMap((old, k) => (k === i ? (one ? [one] : []) : [old])));
  const listed = (one: Recipient) =>
    one.who === 'person'
      ? choices.people
      : one.who === 'group'
        ? choices.groups
        : one.who === 'field'
          ? peopleFields
          : choices.readers;
</script>

{#each to.length > 0 ? to : [null] as one, i (i)}
  <div class="recipient">
    <select
      class="value"
      aria-label={i === 0 ? 'Who is told' : `Who is told too (${i + 1})`}
      value={one ? keyOf(one) : ''}
      onchange={(event) => {
        const made = make(event.currentTarget.value);
        if (one) replace(i, made);
        else if (made) onchange([made]);
      }}
    >
      {#if !one}<option value="">nobody yet</option>{/if}
      {#each offered as [key, words] (key)}<option value={key}>{words}</option>{/each}
    </select>
    {#if one && 'id' in one}
      <select
        class="value"
        aria-label="Which one"
        value={one.id}
        onchange={(event) => replace(i, { ...one, id: Number(event.currentTarget.value) } as Recipient)}
      >
        {#each listed(one) as { id, name } (id)}<option value={id}>{name}</option>{/each}
      </select>
    {:else if one?.who === 'members'}
      <input
        class="value"
        placeholder="in any role"
        aria-label="In which role"
        value={one.role ?? ''}
        onchange={(event) => replace(i, { ...one, role: event.currentTarget.value.trim() || null })}
      />
    {:else if one?.who === 'address'}
      <input
        class="value"
        type="email"
        aria-label="Address"
        value={one.address}
        onchange={(event) => replace(i, { ...one, address: event.currentTarget.value })}
      />
    {/if}
    {#if one}
      <select
        class="value"
        aria-label="How they get it"
        value={one.as ?? 'to'}
        onchange={(event) => {
          const { as: _as, ...rest } = one;
          const as = event.currentTarget.value as 'to' | 'cc' | 'bcc';
          replace(i, (as === 'to' ? rest : { ...rest, as }) as Recipient);
        }}
      >
        <option value="to">itself</option><option value="cc">a copy</option><option value="bcc"
          >a copy nobody sees</option
        >
      </select>
      <button
        type="button"
        class="button plain"
        aria-label="Tell them no more"
        onclick={() => replace(i, null)}><X size={14} /></button
      >
    {/if}
  </div>
{/each}
{#if to.length > 0}
  <button type="button" class="button plain" onclick={() => onchange([...to, { who: 'manager', up: 1 }])}
    ><Plus size={14} />somebody else</button
  >
{/if}

<style>
  .recipient {
    display: flex;
    flex-wrap: wrap;
    gap: 5px;
    align-items: center;
    flex-basis: 100%;
  }
  select {
    max-width: 210px;
  }
</style>
