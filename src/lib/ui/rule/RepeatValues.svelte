<script lang="ts">
  import type { Unit } from '$lib/core/ring/lead.ts';
  import type { OffsetLead } from '$lib/core/rule/lead-model.ts';
  import NumberValue from '$lib/ui/pick/NumberValue.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { unitOptions } from './words.ts';

  /** How a ring time rings again after it. */
  interface Props {
    repeat: NonNullable<OffsetLead['repeat']>;
    /** Units that it can be counted in; absent is all of them. */
    units?: readonly Unit[];
    onchange: (repeat: NonNullable<OffsetLead['repeat']>) => void;
  }

  let { repeat, units, onchange }: Props = $props();
  const offered = $derived(unitOptions(repeat.n).filter(({ value }) => !units || units.includes(value)));
</script>

<span class="quiet">then every</span>
<NumberValue
  label="Repeated after how many"
  min={1}
  value={repeat.n}
  onchange={(n) => n !== null && onchange({ ...repeat, n })}
/>
<Pick
  label="Repeated in which unit"
  options={offered}
  value={repeat.unit}
  onchange={(unit) => onchange({ ...repeat, unit })}
/>
<span class="quiet">until</span>
<NumberValue
  label="Most notices"
  min={1}
  value={repeat.most}
  onchange={(most) => most !== null && onchange({ ...repeat, most })}
/>
<span class="quiet">notices are sent</span>
