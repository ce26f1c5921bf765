import { blankSweep, type SweepDefinition } from '../src/lib/core/sweep/model.ts';
import { formatDay } from '../src/lib/core/time/day.ts';
import type { Container } from '../src/lib/server/container.ts';
import type { Actor } from '../src/lib/server/workspace/commit.ts';

/** The clean-ups of Tidewatch: two that run each Wednesday, two that ask and report, and some for when somebody wants them. */
export function writeSweeps({ sweeps }: Container, actor: Actor, today: number): void {
  const when = (days: string, time: string): SweepDefinition['when'] => ({
    ...{ by: 'schedule', rrule: `FREQ=WEEKLY;BYDAY=${days}`, start: formatDay(today - 28), time },
    ...{ zone: 'Europe/Lisbon', closedDay: 'later' }
  });
  const made: [name: string, description: string, definition: SweepDefinition][] = [
    [
      'Close after a last look',
      'Finished tasks stay in the lists for a day.',
      { ...blankSweep('close'), when: when('WE', '12:00') }
    ],
    [
      'Archive a week later',
      'Archived tasks can be found and returned to the list.',
      { ...blankSweep('archive'), when: when('WE', '12:30') }
    ],
    [
      'Postponed three times',
      'Tasks postponed three times need a new plan.',
      { ...blankSweep('report slips'), when: when('FR', '09:00') }
    ],
    ['No date yet', '', { ...blankSweep('ask a date'), when: when('MO', '10:00'), goes: 'after a yes' }],
    [
      'Still needed?',
      'Tasks without a change for ten working days.',
      { ...blankSweep('still needed'), wait: { n: 10, unit: 'workday' } }
    ],
    ['Overdue tasks to the next working day', '', blankSweep('re-date')],
    ['Purge the archive', '', blankSweep('purge')]
  ];
  for (const [name, description, definition] of made) {
    const { result: id } = sweeps.insert(actor, { name, description, definition });
    if (definition.when.by === 'schedule') sweeps.turn(actor, id, 'on');
  }
}
