<script lang="ts">
  import type { Snippet } from 'svelte';
  import { PRIORITIES, type Priority } from '$lib/core/task/model.ts';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { listOptions, namedOptions, plainOptions } from '$lib/ui/pick/option.ts';
  import Line from '$lib/ui/rule/Line.svelte';

  type Field = 'list' | 'priority' | 'tags';
  interface Watch {
    projects: number[] | null;
    priorities: Priority[];
    tags: string[];
    list: number | null;
  }
  /** Which tasks are looked at, by what every task has: for rules, digests and sweeps alike. */
  interface Props {
    watch: Watch;
    choices: {
      projects: readonly { id: number; name: string }[];
      tags: readonly string[];
      lists: readonly { id: number; name: string; unfit?: string | null }[];
    };
    /** Of what, in the names of the fields: “the digest”; empty where nothing else is on the page. */
    of?: string;
    onchange: (patch: Partial<Watch>) => void;
    /** What stands there although it does not narrow anything; absent: everything that there is a choice for. */
    shown?: (field: Field) => boolean;
    /** Takes a field out again; absent where they always stand. */
    ondrop?: ((field: Field) => void) | undefined;
    /** What stands after the projects. */
    children?: Snippet;
  }

  let { watch, choices, of = '', onchange, shown, ondrop, children }: Props = $props();
  const name = (what: string) => (of ? `${what} of ${of}` : what);
  /** Every priority is the same as none chosen. */
  const priorities = $derived(watch.priorities.length === PRIORITIES.length ? [] : watch.priorities);
  const stands = $derived({
    list: watch.list !== null || (shown ? shown('list') : choices.lists.length > 0),
    priority: priorities.length > 0 || (shown?.('priority') ?? true),
    tags: watch.tags.length > 0 || (shown ? shown('tags') : choices.tags.length > 0)
  });
  const out = (field: Field, label: string) => (ondrop ? { label, onclick: () => ondrop(field) } : undefined);
  const lists = $derived(listOptions(choices.lists, watch.list, 'any'));
</script>

<Line label="tasks in">
  <PickMany
    label={name('Projects')}
    between=""
    blank="all projects and none"
    options={namedOptions(choices.projects)}
    chosen={watch.projects ?? []}
    onchange={(chosen) => onchange({ projects: chosen.length > 0 ? chosen : null })}
  />
</Line>
{@render children?.()}
{#if stands.list}
  <Line label="of the list" out={out('list', 'Of any list')}>
    <Pick
      label={name('Saved list')}
      options={lists}
      value={watch.list ?? 0}
      onchange={(list) => onchange({ list: list || null })}
    />
  </Line>
{/if}
{#if stands.priority}
  <Line label="of priority" out={out('priority', 'Of any priority')}>
    <PickMany
      label={name('Priorities')}
      blank="any"
      options={plainOptions(PRIORITIES)}
      chosen={priorities}
      onchange={(chosen) => onchange({ priorities: chosen.length === 0 ? [...PRIORITIES] : chosen })}
    />
  </Line>
{/if}
{#if stands.tags}
  <Line label="tagged" out={out('tags', 'With any tag or none')}>
    <PickMany
      label={name('Tags')}
      blank="any tag or none"
      options={plainOptions(choices.tags)}
      chosen={watch.tags}
      onchange={(tags) => onchange({ tags })}
    />
  </Line>
{/if}
