<script lang="ts">
  import type { Step } from '$lib/core/rule/step-model.ts';
  import AddMenu from '$lib/ui/pick/AddMenu.svelte';
  import PickMany from '$lib/ui/pick/PickMany.svelte';
  import type { Option } from '$lib/ui/pick/option.ts';
  import Line from './Line.svelte';
  import TakeOut from './TakeOut.svelte';

  /** What every step can have besides: what it is for, and the ring times that alone it answers. */
  interface Props {
    step: Step;
    leads: readonly { id: string; label: string }[];
    suffix: string;
    onchange: (step: Step) => void;
  }

  let { step, leads, suffix, onchange }: Props = $props();
  let asked = $state(false);
  const described = $derived(asked || step.description !== '');
  const more = $derived<Option<string>[]>([
    ...(step.leads === null && leads.length > 1
      ? [{ value: 'leads', label: 'only at some ring times' }]
      : []),
    ...(described ? [] : [{ value: 'description', label: 'description' }])
  ]);
  function add(what: string) {
    if (what === 'leads') onchange({ ...step, leads: leads.map(({ id }) => id) });
    else asked = true;
  }
  function setLeads(chosen: string[]) {
    if (chosen.length > 0) onchange({ ...step, leads: chosen });
  }
</script>

{#if step.leads !== null}
  <Line label="runs at">
    <PickMany
      label="Ring times at which this step runs"
      options={leads.map(({ id, label }) => ({ value: id, label }))}
      chosen={step.leads}
      onchange={setLeads}
    />
    <TakeOut label="Run at every ring time" onclick={() => onchange({ ...step, leads: null })} />
  </Line>
{/if}
{#if described}
  <Line label="it is for">
    <input
      class="value grow"
      aria-label="Description{suffix}"
      maxlength="500"
      value={step.description}
      onchange={(event) => onchange({ ...step, description: event.currentTarget.value.trim() })}
    />
    <TakeOut
      label="Remove the description"
      onclick={() => {
        asked = false;
        onchange({ ...step, description: '' });
      }}
    />
  </Line>
{/if}
{#if more.length > 0}
  <Line label=""><AddMenu caption="More" label="Add to this step{suffix}" options={more} onadd={add} /></Line>
{/if}

<style>
  .grow {
    flex: 1;
  }
</style>
