<script lang="ts">
  import Labelled from './Labelled.svelte';
  import { isRung, type Lead, type LeadFilter } from '$lib/core/rule/lead-model.ts';
  import { PRIORITIES } from '$lib/core/task/model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import { namedOptions, plainOptions, type Option } from '$lib/ui/pick/option.ts';
  import TakeOut from './TakeOut.svelte';
  import type { RuleChoices } from './choices.ts';

  /** What more a ring time can have: that it repeats, for whom it holds, that it is off. */
  interface Props {
    lead: Lead;
    choices: RuleChoices;
    onchange: (lead: Lead) => void;
  }

  let { lead, choices, onchange }: Props = $props();
  const EMPTY: LeadFilter = { priorities: [], tags: [], groups: [] };
  const only = $derived(lead.only ?? EMPTY);
  /** Asked for and not yet filled: it stands there until it is. */
  let asked = $state<(keyof LeadFilter)[]>([]);
  const shown = (part: keyof LeadFilter) => only[part].length > 0 || asked.includes(part);

  function setOnly(patch: Partial<LeadFilter>) {
    const next = { ...only, ...patch };
    const asks = next.priorities.length + next.tags.length + next.groups.length > 0;
    onchange({ ...lead, only: asks ? next : null });
  }

  const more = $derived.by((): Option<string>[] => {
    const all: (Option<string> & { when: boolean })[] = [
      {
        value: 'repeat',
        label: 'Repeat',
        when: lead.kind === 'offset' && !lead.repeat && !isRung(lead)
      },
      { value: 'priorities', label: 'Limit to priorities', when: !shown('priorities') },
      {
        value: 'groups',
        label: 'Limit to owners in a group',
        when: !shown('groups') && choices.groups.length > 0
      },
      { value: 'tags', label: 'Limit to tags', when: !shown('tags') && choices.tags.length > 0 },
      { value: 'off', label: 'Turn off', when: lead.on }
    ];
    return all.filter(({ when }) => when);
  });
  function add(what: string) {
    if (what === 'off') onchange({ ...lead, on: false });
    else if (what === 'repeat' && lead.kind === 'offset')
      onchange({ ...lead, repeat: { n: 1, unit: 'workday', most: 5 } });
    else asked = [...asked, what as keyof LeadFilter];
  }
  function drop(part: keyof LeadFilter) {
    asked = asked.filter((one) => one !== part);
    if (only[part].length > 0) setOnly({ [part]: [] });
  }
</script>

{#if lead.kind === 'offset' && lead.repeat && !isRung(lead)}
  <TakeOut label="Ring once only" onclick={() => onchange({ ...lead, repeat: null })} />
{/if}
{#if shown('priorities')}
  <Labelled label="Only priority">
    <PickMany
      label="Priorities for which it rings"
      options={plainOptions(PRIORITIES)}
      chosen={only.priorities}
      onchange={(priorities) => setOnly({ priorities })}
    />
    <TakeOut label="For every priority" onclick={() => drop('priorities')} />
  </Labelled>
{/if}
{#if shown('groups')}
  <Labelled label="Only owners in">
    <PickMany
      label="Groups of owners for whom it rings"
      options={namedOptions(choices.groups)}
      chosen={only.groups}
      onchange={(groups) => setOnly({ groups })}
    />
    <TakeOut label="For every owner" onclick={() => drop('groups')} />
  </Labelled>
{/if}
{#if shown('tags')}
  <Labelled label="Only tags">
    <PickMany
      label="Tags for which it rings"
      options={plainOptions(choices.tags)}
      chosen={only.tags}
      onchange={(tags) => setOnly({ tags })}
    />
    <TakeOut label="With any tag or none" onclick={() => drop('tags')} />
  </Labelled>
{/if}
{#if !lead.on}
  <span class="only">
    <b class="slate-text">off</b>
    <button type="button" class="button plain" onclick={() => onchange({ ...lead, on: true })}>Turn on</button
    >
  </span>
{/if}
{#if more.length > 0}<AddMenu caption="More" label="Add to this ring time" options={more} onadd={add} />{/if}

<style>
  .only {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 4px;
    align-items: center;
  }
</style>
