import type { Tell } from '../step-model.ts';
import { DEFAULT_PAST } from '../model.ts';
import { offsetLead, type OffsetLead } from '../lead-model.ts';
import { tell, act, rule, on, type Starter } from './parts.ts';

const LATE_COLUMNS: Tell['columns'] = [
  { field: 'task', caption: '' },
  { field: 'owner', caption: '' },
  { field: 'project', caption: '' },
  { field: 'due', caption: '' },
  { field: 'days left', caption: '' }
];

/** Late work climbs: the owner, whoever stands above, and those above them; what matters climbs faster. */
export function climbing(): Starter[] {
  const pressing = { priorities: ['high' as const, 'pressing' as const], tags: [], groups: [] };
  const rung = (id: string, n: number, faster: number | null, patch: Partial<OffsetLead> = {}) =>
    offsetLead(id, n, 'workhour', {
      anchor: 'ladder',
      ...(faster === null ? {} : { instead: [{ only: pressing, n: faster, unit: 'workhour' }] }),
      ...patch
    });
  const each = { gather: 'per recipient' as const };
  const body = 'Hello ‹first name›,\n\n‹task›‹in project› is ‹how late›: it was due ‹due›.\n\n‹link›';
  return [
    {
      key: 'ladder',
      name: 'Escalate overdue work',
      purpose:
        'Owner at once, their manager after 1 working day, the next manager 2 working days later, with a follow-up task.',
      definition: rule(
        [
          rung('late', 0, null),
          rung('above', 8, 4),
          rung('higher', 24, 12, { repeat: { n: 3, unit: 'workday', most: 3 } }),
          on('promise asked')
        ],
        [
          tell('owner', {
            ...{ ...each, body, leads: ['late', 'above', 'higher'], subject: '‹task› is ‹how late›' },
            several: {
              subject: '‹count› of your tasks are late',
              body: 'Hello ‹first name›,\n\nThese tasks are overdue. Answer for each: done, a promised date, or a new date.'
            }
          }),
          tell('above', {
            ...{ ...each, leads: ['above', 'higher'], to: [{ who: 'above', up: 1 }] },
            subject: '‹task› of ‹owner› is ‹how late›',
            body: 'Hello ‹first name›,\n\n‹task› of ‹owner›‹in project› is ‹how late›, and nobody has given a date.\n\n‹link›',
            several: {
              subject: '‹count› tasks of your people are late',
              body: 'Hello ‹first name›,\n\nThese tasks are overdue, and nobody has given a date:'
            },
            columns: LATE_COLUMNS
          }),
          tell('higher', {
            ...{ ...each, leads: ['higher'], to: [{ who: 'above', up: 2 }] },
            subject: '‹task› of ‹owner› is ‹how late›',
            body: 'Hello ‹first name›,\n\n‹task› of ‹owner›‹in project› is ‹how late›; the people at lower levels were told.\n\n‹link›',
            several: {
              subject: '‹count› tasks are late, and those before you have been told',
              body: 'Hello ‹first name›,\n\nThese tasks are overdue. The people at lower levels were told:'
            },
            columns: LATE_COLUMNS
          }),
          tell('yes', {
            ...{ gather: 'per task', leads: ['promise-asked'], to: [{ who: 'above', up: 1 }] },
            noticeKind: 'question',
            subject: 'Approval needed: ‹task›',
            body: 'Hello ‹first name›,\n\n‹owner› promises ‹task› later than ‹due›. Approve or refuse it here:\n\n‹link›'
          }),
          {
            ...act('talk', 'add a follow-up task', [
              {
                act: 'follow-up',
                name: 'Talk about “‹task›”',
                description: '',
                owner: { who: 'above' },
                due: { from: 'today', n: 1, unit: 'workday' },
                time: null,
                priority: null
              }
            ]),
            leads: ['higher']
          }
        ],
        null,
        { past: { ...DEFAULT_PAST, turnedOn: 'latest at the next opening' } }
      )
    }
  ];
}
