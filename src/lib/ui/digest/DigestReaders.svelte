<script lang="ts">
  import type { DigestReader } from '$lib/core/digest/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import type { Option } from '$lib/ui/pick/option.ts';
  import TakeOut from '$lib/ui/rule/TakeOut.svelte';
  import { READER_WORDS } from '$lib/view/digests.ts';

  type Named = { id: number; name: string };
  /** Who reads a digest: people of the team, by name or by what they are. */
  interface Props {
    to: readonly DigestReader[];
    people: readonly Named[];
    groups: readonly Named[];
    readers: readonly Named[];
    onchange: (to: DigestReader[]) => void;
  }

  let { to, people, groups, readers, onchange }: Props = $props();

  const keyOf = (one: DigestReader) => ('id' in one ? `${one.who} ${one.id}` : one.who);
  const listed = (who: string, group: string, all: readonly Named[]) =>
    all.map(({ id, name }): Option<string> => ({ value: `${who} ${id}`, label: name, group }));
  const all = $derived<Option<string>[]>([
    ...Object.entries(READER_WORDS).map(([value, label]) => ({ value, label })),
    ...listed('group', 'A group', groups),
    ...listed('readers', 'A reader list', readers),
    ...listed('person', 'A person', people)
  ]);
  const offered = $derived(all.filter(({ value }) => !to.some((one) => keyOf(one) === value)));
  const labelOf = (one: DigestReader) =>
    all.find(({ value }) => value === keyOf(one))?.label ?? 'a removed person';

  function made(key: string): DigestReader {
    const [who = '', id = ''] = key.split(' ');
    return id === '' ? { who: who as 'everybody' } : { who: who as 'person', id: Number(id) };
  }
</script>

{#each to as one (keyOf(one))}
  <span class="value one"
    >{labelOf(one)}<TakeOut
      label="Remove {labelOf(one)}"
      onclick={() => onchange(to.filter((other) => other !== one))}
    /></span
  >
{/each}
<AddMenu
  caption="Add a recipient"
  label="a recipient"
  options={offered}
  onadd={(key) => onchange([...to, made(key)])}
/>

<style>
  .one {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    padding-block: 0;
  }
</style>
