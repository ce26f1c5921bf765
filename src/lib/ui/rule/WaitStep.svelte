<script lang="ts">
  import { defaultClosedDay, isDayLevel, type Unit } from '$lib/core/ring/lead.ts';
  import type { Wait } from '$lib/core/rule/step-model.ts';
  import { AFTER_WAIT_CHOICES, afterWaitOf } from '$lib/core/rule/words/choice-words.ts';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { wordOptions } from '$lib/ui/pick/option.ts';
  import Line from './Line.svelte';
  import { unitOptions } from './words.ts';

  /** How long a run waits before its next step. */
  interface Props {
    step: Wait;
    noticeTime: string;
    onchange: (step: Wait) => void;
  }

  let { step, noticeTime, onchange }: Props = $props();
  const dayLevel = $derived(isDayLevel(step.unit));
  function setUnit(unit: Unit) {
    const time = isDayLevel(unit) ? (dayLevel ? step.time : noticeTime) : null;
    onchange({ ...step, unit, time, closedDay: defaultClosedDay(step.n, unit) });
  }
</script>

<Line label="for">
  <NumberValue
    label="How long it waits"
    value={step.n}
    onchange={(n) => n !== null && onchange({ ...step, n })}
  />
  <Pick label="Unit of the wait" options={unitOptions(step.n)} value={step.unit} onchange={setUnit} />
  {#if dayLevel}
    <span class="quiet">until</span>
    <TimeField
      class="value time"
      label="Time at which the wait ends"
      value={step.time}
      onchange={(time) => onchange({ ...step, time })}
    />
    <span class="quiet">where the owner is</span>
  {/if}
</Line>
<Line label="then">
  <Pick
    label="After the wait"
    still
    options={wordOptions(AFTER_WAIT_CHOICES)}
    value={afterWaitOf(step)}
    onchange={(how) => onchange({ ...step, regardless: how === 'regardless' })}
  />
</Line>
