<script lang="ts">
  import TimeInput from '$lib/ui/form/TimeInput.svelte';
  import { defaultClosedDay, isDayLevel, type Unit } from '$lib/core/ring/lead.ts';
  import type { Wait } from '$lib/core/rule/model.ts';
  import Line from './Line.svelte';

  /** How long a run waits before its next step. */
  interface Props {
    step: Wait;
    noticeTime: string;
    onchange: (step: Wait) => void;
  }

  let { step, noticeTime, onchange }: Props = $props();
  const UNITS: [Unit, string][] = [
    ['workday', 'working days'],
    ['day', 'days'],
    ['week', 'weeks'],
    ['month', 'months'],
    ['hour', 'hours'],
    ['minute', 'minutes'],
    ['workhour', 'working hours'],
    ['workminute', 'working minutes']
  ];
  const dayLevel = $derived(isDayLevel(step.unit));
  function setUnit(unit: Unit) {
    const time = isDayLevel(unit) ? (dayLevel ? step.time : noticeTime) : null;
    onchange({ ...step, unit, time, closedDay: defaultClosedDay(step.n, unit) });
  }
</script>

<Line label="for">
  <input
    class="value count"
    type="number"
    min="0"
    aria-label="How long it waits"
    value={step.n}
    onchange={(event) =>
      onchange({ ...step, n: Math.max(0, Math.trunc(Number(event.currentTarget.value)) || 0) })}
  />
  <select
    class="value"
    aria-label="Unit of the wait"
    value={step.unit}
    onchange={(event) => setUnit(event.currentTarget.value as Unit)}
  >
    {#each UNITS as [unit, words] (unit)}<option value={unit}>{words}</option>{/each}
  </select>
  {#if dayLevel}
    <span class="quiet">until</span>
    <span class="clock">
      <TimeInput
        class="value time"
        label="Time at which the wait ends"
        value={step.time}
        onchange={(time) => onchange({ ...step, time })}
      />
    </span>
    <span class="quiet">on the owner’s clock</span>
  {/if}
  <label
    ><input
      type="checkbox"
      checked={step.regardless}
      onchange={(event) => onchange({ ...step, regardless: event.currentTarget.checked })}
    /> go on even if it no longer matches</label
  >
</Line>

<style>
  .clock :global(.time) {
    width: 66px;
  }
  .count {
    width: 60px;
  }
  input[type='checkbox'] {
    accent-color: var(--brass-deep);
  }
</style>
