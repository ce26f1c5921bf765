<script lang="ts">
  import type { DigestSchedule } from '$lib/core/digest/model.ts';
  import TimeField from '$lib/ui/form/date/TimeField.svelte';
  import Pick from '$lib/ui/pick/Pick.svelte';
  import { zoneOptions } from '$lib/ui/pick/zone-options.ts';
  import Line from '$lib/ui/rule/Line.svelte';
  import { CLOSED_SCHEDULE_OPTIONS } from './closed-options.ts';
  import Recurrence from './Recurrence.svelte';

  /** When something happens by itself: a recurrence, a time on somebody’s wall, and what happens on a closed day. */
  interface Props {
    when: DigestSchedule;
    /** What happens then: “the digest”. */
    of: string;
    onchange: (patch: Partial<DigestSchedule>) => void;
  }

  let { when, of, onchange }: Props = $props();
</script>

<Line label="">
  <Recurrence rrule={when.rrule} onchange={(rrule) => onchange({ rrule })} />
  <span class="quiet">at</span>
  <TimeField
    class="value time"
    value={when.time}
    label="Time of {of}"
    onchange={(time) => time !== null && onchange({ time })}
  />
  <Pick
    label="Time zone"
    options={[
      { value: '', label: 'workspace time' },
      ...zoneOptions().map((zone) => ({ ...zone, group: 'A place' }))
    ]}
    value={when.zone ?? ''}
    onchange={(zone) => onchange({ zone: zone || null })}
  />
  <Pick
    label="On a closed day"
    still
    options={CLOSED_SCHEDULE_OPTIONS}
    value={when.closedDay as 'skip'}
    onchange={(closedDay) => onchange({ closedDay })}
  />
</Line>
