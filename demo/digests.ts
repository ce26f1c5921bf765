import { blankDigest, type DigestDefinition } from '../src/lib/core/digest/model.ts';
import { formatDay } from '../src/lib/core/time/day.ts';
import type { Container } from '../src/lib/server/container.ts';
import type { Actor } from '../src/lib/server/workspace/commit.ts';

/** When the digests of those who want one leave, on their own wall: of what is due, and of what is overdue. */
const HOURS: readonly [person: string, due: string | null, overdue: string | null][] = [
  ['ines', '08:00', '08:00'],
  ['rui', '08:00', '08:00'],
  ['clara', '08:30', '08:30'],
  ['nora', '08:00', '16:00'],
  ['anil', '08:00', '08:00'],
  ['tess', '08:00', '08:00']
];

const WORKDAYS = 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR';

/** Digest times of people, one for whoever has people below them, and one for those who look after everything, after close. */
export function writeDigests(
  { people, digests, stores }: Container,
  actor: Actor,
  today: number,
  ids: ReadonlyMap<string, number>
): void {
  for (const [key, digestDue, digestOverdue] of HOURS) {
    const id = ids.get(key);
    if (id === undefined) throw new RangeError(`there is no person named ${key}`);
    const { quiet, dailyCap } = stores.people.byId(id)!;
    people.setQuiet(actor, id, { quiet: [...quiet], dailyCap, digestDue, digestOverdue });
  }
  const columns: DigestDefinition['columns'] = (['task', 'owner', 'due', 'days left'] as const).map(
    (field) => ({
      field,
      caption: ''
    })
  );
  const schedule = (time: string) => ({
    ...{ by: 'schedule' as const, rrule: WORKDAYS, start: formatDay(today - 28), time },
    ...{ zone: 'Europe/Lisbon', closedDay: 'skip' as const }
  });
  const made: [name: string, description: string, definition: DigestDefinition, state?: 'off'][] = [
    [
      'Your people',
      'The whole picture once a day, longest overdue first, to managers.',
      {
        ...blankDigest(),
        when: schedule('08:30'),
        to: [{ who: 'managers' }],
        about: 'reports',
        sections: ['overdue', 'due today', 'finished'],
        columns
      }
    ],
    [
      'After close',
      'For the coordinators, at the end of the day.',
      {
        ...blankDigest(),
        when: schedule('19:00'),
        to: [{ who: 'coordinator' }],
        about: 'everybody',
        sections: ['overdue', 'due today', 'finished', 'undated'],
        columns,
        empty: 'all clear',
        attach: ['table']
      }
    ],
    [
      'Everything open',
      'One table of all open tasks, by project. Turn it on to send it each Monday.',
      {
        ...blankDigest(),
        when: { ...schedule('09:30'), rrule: 'FREQ=WEEKLY;BYDAY=MO' },
        to: [{ who: 'coordinator' }],
        about: 'everybody',
        sections: ['all open'],
        table: { list: null, order: 'due', group: 'project' },
        columns: (['task', 'owner', 'due', 'priority'] as const).map((field) => ({ field, caption: '' })),
        subject: 'Open tasks by project: ‹counts›'
      },
      'off'
    ]
  ];
  for (const [name, description, definition, state] of made) {
    const { result: id } = digests.add(actor, { name, description, definition });
    if (state !== 'off') digests.turn(actor, id, 'on');
  }
}
