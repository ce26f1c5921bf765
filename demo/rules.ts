import { blankDefinition, openWatch, type RuleDefinition, NO_STOP } from '../src/lib/core/rule/model.ts';
import { blankTell, type Step, type Tell } from '../src/lib/core/rule/step-model.ts';
import { offsetLead, type EventLead, type Lead, type ScheduleLead } from '../src/lib/core/rule/lead-model.ts';
import { starters } from '../src/lib/core/rule/starters/starters.ts';
import type { DemoRule } from './scenario.ts';

/** Rules of Tidewatch that ring, tell and act in every other way; they were turned on a week before the demo's moment. */

const tell = (id: string, patch: Partial<Tell> & Pick<Tell, 'to' | 'subject' | 'body'>): Tell => ({
  ...blankTell(id),
  ...patch
});
const step = (id: string, name: string) => ({ id, name, description: '', leads: null });
const base = (id: string) => ({ id, on: true, only: null, zone: { of: 'owner' as const } });
const on = (id: string, event: EventLead['event'], patch: Partial<EventLead> = {}): Lead => ({
  ...base(id),
  kind: 'event',
  event,
  wide: false,
  ...patch
});
const every = (id: string, rrule: string, time: string, patch: Partial<ScheduleLead> = {}): Lead => ({
  ...base(id),
  ...{ kind: 'schedule', rrule, start: '2026-01-05', time, closedDay: 'skip', oncePerDate: false },
  zone: { of: 'workspace' },
  ...patch
});
const rule = (leads: Lead[], steps: Step[], patch: Partial<RuleDefinition> = {}): RuleDefinition => ({
  ...blankDefinition(),
  leads,
  steps,
  ...patch
});

/** Rings again and again, until it has rung often enough. */
function repeated(): DemoRule[] {
  return [
    {
      name: 'Overdue, working day by working day',
      description: 'From the first working day after the date, five times at most, one message a person.',
      definition: rule(
        [offsetLead('after-1', 1, 'workday', { time: '10:30', repeat: { n: 1, unit: 'workday', most: 5 } })],
        [
          tell('chase', {
            to: [{ who: 'owner' }],
            subject: '‹task› is ‹days left›',
            body: 'Hello ‹first name›,\n\n‹task› was due on ‹due›. Finish it, or give it a new date.\n\n‹link›',
            several: {
              subject: '‹count› of your tasks are overdue',
              body: 'Hello ‹first name›,\n\nThese ‹count› tasks are past their date. Finish them, or give them new dates:'
            }
          })
        ]
      )
    }
  ];
}

/** Looks for its tasks on a schedule; tells each in a table, or all together. */
/** @param planners the reader list of those who plan the week */
function scheduled(planners: number): DemoRule[] {
  return [
    {
      name: 'The week ahead, on Mondays',
      description: 'One table per person: tasks due in five working days.',
      definition: rule(
        [every('monday', 'FREQ=WEEKLY;BYDAY=MO', '08:30')],
        [
          tell('week', {
            to: [{ who: 'owner' }],
            subject: 'This week: ‹task›, ‹days left›',
            body: 'Hello ‹first name›,\n\nOne task is due this week: ‹task›, ‹due›.\n\n‹link›',
            several: {
              subject: 'This week: ‹count› tasks',
              body: 'Hello ‹first name›,\n\nThese tasks are due within five working days:'
            }
          })
        ],
        {
          watch: { ...openWatch(), condition: { field: 'due', op: 'within the next working days', value: 5 } }
        }
      )
    },
    {
      name: 'Tasks without a date, for the planners',
      description:
        'No date rule rings for a task without a date. Twice a month the planners get one list of them.',
      definition: rule(
        [every('undated', 'FREQ=MONTHLY;BYMONTHDAY=1,15', '09:30', { closedDay: 'later' })],
        [
          tell('list', {
            to: [{ who: 'readers', id: planners }],
            gather: 'together',
            subject: 'Undated: ‹task›',
            body: 'One open task has no date: ‹task›, of ‹owner›.\n\n‹link›',
            several: { subject: '‹count› open tasks have no date', body: 'These open tasks have no date:' },
            columns: [
              { field: 'task', caption: '' },
              { field: 'project', caption: '' },
              { field: 'owner', caption: 'Whose' }
            ]
          })
        ],
        { watch: { ...openWatch(), condition: { field: 'due', op: 'is empty' } } }
      )
    }
  ];
}

/** Rings as soon as something happens. */
function onEvents(): DemoRule[] {
  return [
    {
      name: 'Assigned to you',
      description: 'A new owner is told at once, in their working hours.',
      definition: rule(
        [on('given', 'assigned')],
        [
          tell('given', {
            to: [{ who: 'owner' }],
            gather: 'per task',
            fold: true,
            subject: 'Yours now: ‹task›',
            body: 'Hello ‹first name›,\n\n‹task›‹in project› is yours: ‹due›.\n\n‹link›'
          })
        ]
      )
    },
    {
      name: 'Finished, for the creator',
      description: 'Tells the creator when it is finished, with a copy to the project’s lead.',
      definition: rule(
        [on('done', 'finished')],
        [
          tell('done', {
            to: [{ who: 'creator' }, { who: 'members', role: 'leads the work', as: 'cc' }],
            fold: true,
            subject: '‹task› is finished',
            body: 'Hello ‹first name›,\n\n‹owner› has finished ‹task› (‹project›).\n\n‹link›'
          })
        ]
      )
    }
  ];
}

/** Tells, waits, and creates a follow-up once. */
function followedUp(): DemoRule[] {
  return [
    {
      name: 'Permits, a month ahead',
      description: 'Tells the owner 30 days ahead. Two working days later it adds one follow-up call.',
      projects: ['permits'],
      definition: rule(
        [offsetLead('month', -30, 'day', { time: '11:00', closedDay: 'later' })],
        [
          tell('ahead', {
            to: [{ who: 'owner' }],
            gather: 'per task',
            importance: 'high',
            attach: ['calendar'],
            subject: '‹task›: ‹days left›',
            body: 'Hello ‹first name›,\n\n‹task› is ‹days left›, on ‹due›. The office needs three weeks.\n\n‹link›'
          }),
          {
            ...step('pause', 'give the office time'),
            kind: 'wait',
            n: 2,
            unit: 'workday',
            time: '09:00',
            closedDay: 'later',
            regardless: false
          },
          {
            ...step('call', 'add the follow-up call'),
            kind: 'do',
            acts: [
              {
                ...{
                  act: 'follow-up',
                  name: 'Call the office about “‹task›”',
                  description: '',
                  priority: null
                },
                ...{ owner: { who: 'owner' }, due: { from: 'today', n: 1, unit: 'workday' }, time: null }
              }
            ],
            ask: null
          }
        ]
      )
    }
  ];
}

/** Branches by by priority. */
function stuckOnOthers(stuck: number): DemoRule[] {
  return [
    {
      name: 'Stuck for three working days',
      description: 'Tells the owner; for high priority, the manager too.',
      definition: rule(
        [offsetLead('stuck', 3, 'workday', { anchor: 'phase entered', time: '09:30' })],
        [
          {
            ...step('by-priority', 'by priority'),
            kind: 'branch',
            sides: [
              {
                name: 'it matters',
                condition: { field: 'priority', op: 'any of', value: ['high', 'pressing'] },
                steps: [
                  tell('up', {
                    to: [
                      { who: 'manager', up: 1 },
                      { who: 'owner', as: 'cc' }
                    ],
                    gather: 'per task',
                    noticeKind: 'escalation',
                    subject: '‹task› is stuck on others',
                    body: 'Hello ‹first name›,\n\n‹task› of ‹owner› has waited for others for three working days. It is ‹days left›.\n\n‹link›'
                  }),
                  {
                    ...step('mark', 'mark it'),
                    kind: 'do',
                    acts: [{ act: 'add tag', tag: 'stuck' }],
                    ask: null
                  }
                ]
              }
            ],
            otherwise: [
              {
                ...step('note', 'leave a note'),
                kind: 'do',
                acts: [{ act: 'comment', text: '‹task› has waited for others for three working days.' }],
                ask: null
              }
            ]
          }
        ],
        {
          watch: {
            ...openWatch(),
            phases: ['stuck on others'],
            condition: { field: 'status', op: 'is', value: stuck }
          }
        }
      )
    }
  ];
}

/** Asks before it acts. */
function asking(): DemoRule[] {
  return [
    {
      name: 'Still needed?',
      description:
        'After 15 working days without a change it asks the owner. Without an answer, the task is parked.',
      definition: rule(
        [offsetLead('stale', 15, 'workday', { anchor: 'last touched', time: '10:00' })],
        [
          {
            ...step('park', 'park it'),
            kind: 'do',
            acts: [{ act: 'park', review: { from: 'today', n: 30, unit: 'day' } }],
            ask: { question: 'May this be parked?', workingDays: 5, otherwise: 'no' }
          }
        ],
        {
          watch: {
            ...openWatch(),
            condition: {
              none: [
                { field: 'keep', op: 'is yes' },
                { field: 'priority', op: 'any of', value: ['high', 'pressing'] }
              ]
            }
          }
        }
      )
    }
  ];
}

/** Rung by hand; and what outside people hear. */
function byHand(): DemoRule[] {
  return [
    {
      name: 'Ask for news',
      description: 'Rung by hand from a task, or for all overdue tasks.',
      definition: rule(
        [{ ...base('news'), kind: 'by hand', caption: 'Ask for news' }],
        [
          tell('news', {
            to: [{ who: 'owner' }],
            force: 'must',
            subject: 'Any news of ‹task›?',
            body: 'Hello ‹first name›,\n\nDo you have news of ‹task›? It is ‹days left›.\n\n‹link›',
            several: {
              subject: 'Any news of these ‹count› tasks?',
              body: 'Hello ‹first name›,\n\nDo you have news of these?'
            }
          })
        ],
        { watch: { ...openWatch(), condition: { field: 'days overdue', op: 'at least', value: 1 } } }
      )
    },
    {
      name: 'Courier date, for outside contacts',
      description: 'Outside contacts get the date and nothing more.',
      projects: ['samples'],
      definition: rule(
        [offsetLead('courier', -1, 'workday', { time: '15:00' })],
        [
          tell('outside', {
            to: [{ who: 'contacts' }],
            gather: 'per task',
            subject: '‹task›: ‹due›',
            body: 'Hello,\n\nThis is a reminder of ‹task› (‹project›) on ‹due›.\n\nTidewatch, sample shipments'
          })
        ],
        {
          stop: {
            ...NO_STOP,
            condition: { field: 'percent', op: 'at least', value: 100 },
            afterNotices: 2
          }
        }
      )
    }
  ];
}

/** What matters and is late climbs to whoever stands above. */
function climbing(noticeTime: string): DemoRule[] {
  const ladder = starters({ statusIn: () => null, today: '2026-01-05', noticeTime }).find(
    ({ key }) => key === 'ladder'
  )!;
  const { definition } = ladder;
  return [
    {
      name: 'Escalate important overdue work',
      projects: ['permits', 'buoys', 'gauges'],
      description:
        'Overdue tasks of high or pressing priority: the owner, then their manager, then the next manager.',
      definition: { ...definition, watch: { ...definition.watch, priorities: ['high', 'pressing'] } }
    }
  ];
}

/** What is done to many tasks at once, at a button on a project and over the list. */
function onMany(closed: number): DemoRule[] {
  const made = starters({
    statusIn: (phase) => (phase === 'closed' ? closed : null),
    today: '2026-01-05',
    noticeTime: '09:00'
  });
  return made
    .filter(({ key }) => key === 'called-off' || key === 're-date-late')
    .map(({ name, purpose, definition }) => ({ name, description: purpose, definition }));
}

/**
 * @param statuses the workspace's, in their order
 * @param planners the reader list of those who plan the week
 */
export function furtherRules(statuses: readonly number[], planners: number): DemoRule[] {
  const [, , stuck = 0, , closed = 0] = statuses;
  const inGroup = (group: string, rules: readonly DemoRule[]) => rules.map((one) => ({ ...one, group }));
  return [
    ...inGroup('Dates', [...repeated(), ...scheduled(planners)]),
    ...inGroup('Dates', climbing('09:00')),
    ...inGroup('News', onEvents()),
    ...inGroup('Dates', followedUp()),
    ...inGroup('Upkeep', [...stuckOnOthers(stuck), ...asking()]),
    ...inGroup('News', byHand()),
    ...inGroup('Upkeep', onMany(closed))
  ];
}
