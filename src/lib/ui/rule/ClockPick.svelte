<script lang="ts">
  import Labelled from './Labelled.svelte';
  import { CLOCK_CHOICES } from '$lib/core/rule/words/choice-words.ts';
  import { calendarOfClock } from '$lib/core/rule/words/lead-words.ts';
  import { isDayLevel } from '$lib/core/ring/lead.ts';
  import type { Lead, ZoneChoice } from '$lib/core/rule/lead-model.ts';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import { zoneOptions } from '$lib/ui/pick/zone-options.ts';
  import type { RuleChoices } from './choices.ts';

  /** Time zone one ring time is, where it has a time of day; of a schedule whose calendar says which days are closed, too. */
  interface Props {
    lead: Lead;
    choices: RuleChoices;
    onchange: (lead: Lead) => void;
  }

  let { lead, choices, onchange }: Props = $props();
  const zone = $derived(lead.zone);
  const hasTime = $derived(lead.kind === 'schedule' || (lead.kind === 'offset' && isDayLevel(lead.unit)));
  const setZone = (next: ZoneChoice) => onchange({ ...lead, zone: next });
</script>

{#if hasTime}
  <Labelled label="Time zone">
    <Pick
      label="Whose time"
      options={wordOptions(CLOCK_CHOICES)}
      value={zone.of}
      onchange={(of) => setZone(of === 'named' ? { of, zone: choices.zone } : { of })}
    />
    {#if zone.of === 'named'}
      <Pick
        label="Time zone"
        options={zoneOptions()}
        value={zone.zone}
        onchange={(name) => setZone({ of: 'named', zone: name })}
      />
    {/if}
    {#if lead.kind === 'schedule' && lead.closedDay !== 'as-is'}
      <span class="quiet">closed days: {calendarOfClock(zone)}</span>
    {/if}
  </Labelled>
{/if}
