<script lang="ts">
  import type { Recipient } from '$lib/core/rule/step-model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { wordOptions, type Option } from '$lib/ui/pick/option.ts';
  import TakeOut from './TakeOut.svelte';
  import type { RuleChoices } from './choices.ts';

  /** Who is told: each by role or by name, as whom they get it, and at which ring times. */
  interface Props {
    to: readonly Recipient[];
    choices: RuleChoices;
    leads: readonly { id: string; label: string }[];
    onchange: (to: Recipient[]) => void;
  }

  let { to, choices, leads, onchange }: Props = $props();

  const ROLES: readonly [string, string][] = [
    ['owner', 'the owner'],
    ['manager 1', 'the owner’s manager'],
    ['manager 2', 'the manager’s manager'],
    ['above 1', 'the next active manager, or the coordinators'],
    ['above 2', 'the second manager up, or the coordinators'],
    ['above 3', 'the third manager up, or the coordinators'],
    ['members', 'the project’s members'],
    ['creator', 'its creator'],
    ['actor', 'the person who changed it'],
    ['keeper', 'the rule’s keeper'],
    ['coordinator', 'the coordinators'],
    ['contacts', 'its outside contacts'],
    ['address', 'an address']
  ];
  const listed = (group: string, key: string, all: readonly { id: number; name: string }[]) =>
    all.map(({ id, name }): Option<string> => ({ value: `${key} ${id}`, label: name, group }));
  const offered = $derived<Option<string>[]>([
    ...ROLES.map(([value, label]) => ({ value, label })),
    ...listed('A group', 'group', choices.groups),
    ...listed('A reader list', 'readers', choices.readers),
    ...listed(
      'The people in a field',
      'field',
      choices.fields.filter(({ kind }) => kind === 'person' || kind === 'people')
    ),
    ...listed('A person', 'person', choices.people)
  ]);

  function keyOf(one: Recipient): string {
    if (one.who === 'manager' || one.who === 'above') return `${one.who} ${one.up}`;
    return 'id' in one ? `${one.who} ${one.id}` : one.who;
  }
  /** Somebody of the list, with what stood beside the one in whose place they come. */
  function made(key: string, before?: Recipient): Recipient {
    const kept = {
      ...(before?.as ? { as: before.as } : {}),
      ...(before?.leads ? { leads: before.leads } : {})
    };
    const [who = '', id = ''] = key.split(' ');
    if (who === 'manager' || who === 'above') return { ...kept, who, up: Number(id) };
    if (who === 'members') return { ...kept, who, role: null };
    if (who === 'address') return { ...kept, who, address: '' };
    if (id !== '') return { ...kept, who: who as 'person', id: Number(id) };
    return { ...kept, who: who as 'owner' };
  }
  const replace = (i: number, one: Recipient | null) =>
    onchange(to.flatMap((old, k) => (k === i ? (one ? [one] : []) : [old])));

  const AS = { to: 'the message', cc: 'a copy', bcc: 'a hidden copy' } as const;
  function setAs(i: number, as: keyof typeof AS) {
    const { as: _as, ...rest } = to[i]!;
    replace(i, (as === 'to' ? rest : { ...rest, as }) as Recipient);
  }
  function setLeads(i: number, chosen: string[]) {
    const { leads: _leads, ...rest } = to[i]!;
    const all = chosen.length === 0 || chosen.length === leads.length;
    replace(i, (all ? rest : { ...rest, leads: chosen }) as Recipient);
  }
</script>

{#each to as one, i (i)}
  <div class="recipient" role="group" aria-label="Recipient {i + 1}">
    <Pick
      label={i === 0 ? 'Who is told' : `Who is told too (${i + 1})`}
      options={offered}
      value={keyOf(one)}
      onchange={(key) => replace(i, made(key, one))}
    />
    {#if one.who === 'members'}
      <input
        class="value"
        placeholder="in any role"
        aria-label="In which role"
        value={one.role ?? ''}
        onchange={(event) => replace(i, { ...one, role: event.currentTarget.value.trim() || null })}
      />
    {:else if one.who === 'address'}
      <input
        class="value"
        type="email"
        aria-label="Address"
        value={one.address}
        onchange={(event) => replace(i, { ...one, address: event.currentTarget.value })}
      />
    {/if}
    <span class="quiet">as</span>
    <Pick
      label="How they get it"
      still
      options={wordOptions(AS)}
      value={one.as ?? 'to'}
      onchange={(as) => setAs(i, as)}
    />
    {#if leads.length > 1 && one.leads}
      <span class="quiet">at</span>
      <PickMany
        label="Ring times at which they are told"
        options={leads.map(({ id, label }) => ({ value: id, label }))}
        chosen={one.leads}
        onchange={(chosen) => setLeads(i, chosen)}
      />
    {:else if leads.length > 1}
      <AddMenu
        caption="Limit to…"
        label="Limit to a ring time"
        options={leads.map(({ id, label }) => ({ value: id, label }))}
        onadd={(id) => setLeads(i, [id])}
      />
    {/if}
    <TakeOut label="Remove recipient" onclick={() => replace(i, null)} />
  </div>
{/each}
<AddMenu
  caption="Add a recipient"
  label="a recipient"
  options={offered}
  onadd={(key) => onchange([...to, made(key)])}
/>

<style>
  .recipient {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 5px;
    align-items: center;
    flex-basis: 100%;
  }
</style>
