import { isDayLevel, type Unit } from '../ring/lead.ts';
import type { Condition } from './condition.ts';
import {
  DEFAULT_PAST,
  blankDefinition,
  blankTell,
  offsetLead,
  openWatch,
  type Do,
  type EventLead,
  type Lead,
  type OffsetLead,
  type RuleDefinition,
  type ScheduleLead,
  type Step,
  type Tell
} from './model.ts';
import type { Phase } from '../task/model.ts';

/** A rule that is ready to be used as it is, or to begin from. */
export interface Starter {
  /** Stays the same, so that an address can name it. */
  key: string;
  name: string;
  /** What it is for, in a sentence. */
  purpose: string;
  definition: RuleDefinition;
}

/** What of a workspace starters are made for. */
export interface StarterBasis {
  /** The first status of a phase; null where there is none. */
  statusIn(phase: Phase): number | null;
  /** The day from which schedules count. */
  today: string;
  /** The workspace's usual time of day. */
  noticeTime: string;
}

const OWNER: Tell['to'] = [{ who: 'owner' }];

function tell(id: string, patch: Partial<Tell> = {}): Tell {
  return { ...blankTell(id), to: OWNER, ...patch };
}

function act(id: string, name: string, acts: Do['acts'], ask: Do['ask'] = null): Do {
  return { id, kind: 'do', name, description: '', leads: null, acts, ask };
}

function rule(
  leads: Lead[],
  steps: Step[],
  condition: Condition | null = null,
  patch: Partial<RuleDefinition> = {}
): RuleDefinition {
  return { ...blankDefinition(), leads, steps, watch: { ...openWatch(), condition }, ...patch };
}

function on(event: EventLead['event']): Lead {
  return {
    kind: 'event',
    id: event.replaceAll(' ', '-'),
    on: true,
    only: null,
    zone: { of: 'owner' },
    event,
    wide: false
  };
}

/** Makes what starters count from. */
function makers({ today, noticeTime }: StarterBasis) {
  return {
    at: (id: string, n: number, unit: Unit, patch: Partial<OffsetLead> = {}) =>
      offsetLead(id, n, unit, { ...(isDayLevel(unit) ? { time: noticeTime } : {}), ...patch }),
    weekly: (id: string, day: string, time: string, patch: Partial<ScheduleLead> = {}): Lead => ({
      ...{ kind: 'schedule', id, on: true, only: null, zone: { of: 'workspace' } },
      ...{ rrule: `FREQ=WEEKLY;BYDAY=${day}`, start: today, time, closedDay: 'skip', oncePerDate: false },
      ...patch
    })
  };
}

/** Starters in the order in which they are needed most. */
export function starters(basis: StarterBasis): Starter[] {
  return [
    ...aroundTheDate(basis),
    ...whenItHappens(),
    ...newWork(),
    ...statusMove(basis.statusIn),
    ...followedUp(basis),
    ...kept(basis),
    ...listed(basis),
    ...climbing(),
    ...byHand(basis)
  ];
}

/** Reminders before, on and after the date. */
function aroundTheDate(basis: StarterBasis): Starter[] {
  const { at } = makers(basis);
  return [
    {
      key: 'two-leads',
      name: 'Five working days ahead, and the day before',
      purpose: 'The owner hears twice before the date, in one message a person.',
      definition: rule([at('five', -5, 'workday'), at('one', -1, 'workday')], [tell('tell')])
    },
    {
      key: 'due-today',
      name: 'Due today',
      purpose: 'On the morning of the date, everything of the day in one message.',
      definition: rule(
        [at('day', 0, 'day')],
        [
          tell('tell', {
            several: {
              subject: '‹count› tasks are due today',
              body: 'Good day ‹first name›,\n\nthese are due today:'
            }
          })
        ]
      )
    },
    {
      key: 'overdue-daily',
      name: 'Overdue, every working day',
      purpose: 'From the first working day after the date, ten times at most.',
      definition: rule(
        [at('late', 1, 'workday', { repeat: { n: 1, unit: 'workday', most: 10 } })],
        [
          tell('tell', {
            body: 'Good day ‹first name›,\n\n‹task› in ‹project› is ‹days left›. Finish it, or give it a new date.\n\n‹link›',
            several: {
              subject: '‹count› of your tasks are past their dates',
              body: 'Good day ‹first name›,\n\nthese are past their dates. Finish them, or give them new ones:'
            }
          })
        ]
      )
    },
    {
      key: 'important-ahead',
      name: 'Important work, to the manager before the date',
      purpose:
        'What is pressing goes to the owner’s manager three working days ahead, what is high one day ahead.',
      definition: rule(
        [
          at('pressing', -3, 'workday', { only: { priorities: ['pressing'], tags: [], groups: [] } }),
          at('high', -1, 'workday', { only: { priorities: ['high'], tags: [], groups: [] } })
        ],
        [
          tell('tell', {
            to: [{ who: 'manager', up: 1 }],
            noticeKind: 'escalation',
            subject: '‹task› of ‹owner› is ‹days left›',
            body: 'Good day ‹first name›,\n\n‹task› of ‹owner› (‹project›) has ‹priority› priority and is ‹days left›: ‹due›. It stands at “‹status›”.\n\n‹link›'
          })
        ]
      )
    }
  ];
}

/** News of what has just happened, and what is just about to. */
function whenItHappens(): Starter[] {
  return [
    {
      key: 'assigned',
      name: 'Assigned to you',
      purpose: 'Whoever is given a task hears of it in their hours.',
      definition: rule(
        [on('assigned')],
        [
          tell('tell', {
            gather: 'per task',
            subject: 'Yours now: ‹task›',
            body: 'Good day ‹first name›,\n\n‹task› in ‹project› is yours. It is ‹days left›.\n\n‹link›'
          })
        ]
      )
    },
    {
      key: 'finished',
      name: 'Finished, to the members of the project',
      purpose: 'Everybody in the project hears when a piece of work is done.',
      definition: rule(
        [on('finished')],
        [
          tell('tell', {
            to: [{ who: 'members', role: null }],
            subject: '‹task› is finished',
            body: 'Good day ‹first name›,\n\n‹owner› has finished ‹task› (‹project›).\n\n‹link›',
            several: {
              subject: '‹count› tasks are finished',
              body: 'Good day ‹first name›,\n\nthese are finished:'
            }
          })
        ]
      )
    },
    {
      key: 'minutes',
      name: 'An hour and half an hour before',
      purpose: 'For work with a time of day: 60 and 30 minutes before it, outside working hours too.',
      definition: rule(
        [offsetLead('sixty', -60, 'minute'), offsetLead('thirty', -30, 'minute')],
        [
          tell('tell', {
            gather: 'per task',
            reach: 'any time',
            subject: '‹task›: ‹due›',
            body: 'Good day ‹first name›,\n\n‹task› is due ‹due›.\n\n‹link›'
          })
        ],
        { field: 'timed', op: 'is yes' }
      )
    }
  ];
}

/** What new work gets that lacks it. */
function newWork(): Starter[] {
  return [
    {
      key: 'defaults',
      name: 'New work without an owner or a date',
      purpose:
        'What comes in without an owner goes to whoever made it; without a date it is due in five working days.',
      definition: rule(
        [on('created')],
        [
          {
            ...{ id: 'owner', kind: 'branch', name: 'an owner', description: '', leads: null, otherwise: [] },
            sides: [
              {
                name: 'it has none',
                condition: { field: 'owner', op: 'is empty' },
                steps: [
                  act('give', 'give it to whoever made it', [{ act: 'assign', to: { who: 'creator' } }])
                ]
              }
            ]
          },
          {
            ...{ id: 'date', kind: 'branch', name: 'a date', description: '', leads: null, otherwise: [] },
            sides: [
              {
                name: 'it has none',
                condition: { field: 'due', op: 'is empty' },
                steps: [
                  act('due', 'due in a week', [
                    { act: 'set due', date: { from: 'today', n: 5, unit: 'workday' }, time: null }
                  ])
                ]
              }
            ]
          }
        ]
      )
    }
  ];
}

/** Work that follows from work. */
function followedUp(basis: StarterBasis): Starter[] {
  const { at } = makers(basis);
  return [
    {
      key: 'follow-up',
      name: 'A follow-up when something is late',
      purpose:
        'Two working days after the date a task to ask about it is made, once, for whoever keeps the rule.',
      definition: rule(
        [at('late', 2, 'workday')],
        [
          act('follow', 'make the follow-up', [
            {
              act: 'follow-up',
              name: 'Ask about “‹task›”',
              description: '',
              owner: { who: 'keeper' },
              due: { from: 'today', n: 1, unit: 'workday' },
              time: null,
              priority: null
            }
          ])
        ]
      )
    },
    {
      key: 'renewals',
      name: 'Renewals, a month ahead, and a call',
      purpose:
        'The owner hears 30 days before the date; two working days later, at 09:00, a call is put into the list.',
      definition: rule(
        [at('month', -30, 'day', { closedDay: 'later' })],
        [
          tell('tell', {
            gather: 'per task',
            subject: '‹task› is ‹days left›',
            body: 'Good day ‹first name›,\n\n‹task› is ‹days left›: ‹due›. In two working days a call is put into your list.\n\n‹link›'
          }),
          {
            id: 'wait',
            kind: 'wait',
            name: 'two working days',
            description: '',
            leads: null,
            n: 2,
            unit: 'workday',
            time: '09:00',
            closedDay: 'later',
            regardless: false
          },
          act('call', 'put the call into the list', [
            {
              act: 'follow-up',
              name: 'Call about “‹task›”',
              description: '',
              owner: { who: 'owner' },
              due: { from: 'today', n: 0, unit: 'day' },
              time: '09:00',
              priority: null
            }
          ])
        ]
      )
    }
  ];
}

/** Late work climbs: the owner, whoever stands above, and those above them; what matters climbs faster. */
function climbing(): Starter[] {
  const pressing = { priorities: ['high' as const, 'pressing' as const], tags: [], groups: [] };
  const rung = (id: string, n: number, faster: number | null, patch: Partial<OffsetLead> = {}) =>
    offsetLead(id, n, 'workhour', {
      anchor: 'ladder',
      ...(faster === null ? {} : { instead: [{ only: pressing, n: faster, unit: 'workhour' }] }),
      ...patch
    });
  const each = { gather: 'per recipient' as const };
  const body = 'Good day ‹first name›,\n\n‹task› in ‹project› is ‹how late›: it was due ‹due›.\n\n‹link›';
  return [
    {
      key: 'ladder',
      name: 'Late work climbs',
      purpose:
        'Late, the owner hears; a working day on, whoever stands above them; two more, those above them, with a talk put into the list.',
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
              body: 'Good day ‹first name›,\n\nthese are late. Say what you know of each: done, a promised date, another date.'
            }
          }),
          tell('above', {
            ...{ ...each, leads: ['above', 'higher'], to: [{ who: 'above', up: 1 }] },
            subject: '‹task› of ‹owner› is ‹how late›',
            body: 'Good day ‹first name›,\n\n‹task› of ‹owner› in ‹project› is ‹how late›, and nobody has said when it will be done.\n\n‹link›',
            several: {
              subject: '‹count› tasks of your people are late',
              body: 'Good day ‹first name›,\n\nthese are late, and nobody has said when they will be done:'
            },
            columns: LATE_COLUMNS
          }),
          tell('higher', {
            ...{ ...each, leads: ['higher'], to: [{ who: 'above', up: 2 }] },
            subject: '‹task› of ‹owner› is ‹how late›',
            body: 'Good day ‹first name›,\n\n‹task› of ‹owner› in ‹project› is ‹how late›; those before you have been told.\n\n‹link›',
            several: {
              subject: '‹count› tasks are late, and those before you have been told',
              body: 'Good day ‹first name›,\n\nthese are late; those before you have been told:'
            },
            columns: LATE_COLUMNS
          }),
          tell('yes', {
            ...{ gather: 'per task', leads: ['promise-asked'], to: [{ who: 'above', up: 1 }] },
            noticeKind: 'question',
            subject: 'A promise past the date: ‹task›',
            body: 'Good day ‹first name›,\n\n‹owner› promises ‹task› for later than its date, ‹due›. It counts once you say yes, on its page:\n\n‹link›'
          }),
          {
            ...act('talk', 'put a talk into the list', [
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

const LATE_COLUMNS: Tell['columns'] = [
  { field: 'task', caption: '' },
  { field: 'owner', caption: '' },
  { field: 'project', caption: '' },
  { field: 'due', caption: '' },
  { field: 'days left', caption: '' }
];

/** What keeps the list in order. */
function kept({ noticeTime }: StarterBasis): Starter[] {
  return [
    {
      key: 'log-time',
      name: 'Time still to be logged',
      purpose: 'A working day after it is finished, the owner of work whose time must be logged and is not.',
      definition: rule(
        [offsetLead('after', 1, 'workday', { anchor: 'finished', time: noticeTime })],
        [
          tell('tell', {
            subject: 'Log your time for ‹task›',
            body: 'Good day ‹first name›,\n\n‹task› is finished, and no time is logged for it yet.\n\n‹link›',
            several: {
              subject: 'Log your time for ‹count› tasks',
              body: 'Good day ‹first name›,\n\nthese are finished, and no time is logged for them yet:'
            }
          })
        ],
        {
          all: [
            { field: 'log time', op: 'is yes' },
            { field: 'minutes logged', op: 'equals', value: 0 }
          ]
        }
      )
    },
    {
      key: 'stale',
      name: 'Still needed?',
      purpose:
        'After 15 working days without a touch the owner is asked, and with a yes it is parked for a month.',
      definition: rule(
        [offsetLead('stale', 15, 'workday', { anchor: 'last touched', time: noticeTime })],
        [
          act('park', 'park it', [{ act: 'park', review: { from: 'today', n: 30, unit: 'day' } }], {
            question: 'Nobody has touched this for 15 working days. May it be parked for a month?',
            workingDays: 5,
            otherwise: 'no'
          })
        ],
        { field: 'keep', op: 'is no' }
      )
    }
  ];
}

/** Lists that come by themselves. */
function listed(basis: StarterBasis): Starter[] {
  const { weekly } = makers(basis);
  const { noticeTime } = basis;
  return [
    {
      key: 'undated',
      name: 'Undated, on Mondays',
      purpose: 'No rule can see a task without a date: once a week its owner gets the list of them.',
      definition: rule(
        [weekly('monday', 'MO', noticeTime)],
        [
          tell('tell', {
            subject: '‹task› has no date',
            body: 'Good day ‹first name›,\n\n‹task› has no date, so nothing reminds you of it.\n\n‹link›',
            several: {
              subject: '‹count› of your tasks have no date',
              body: 'Good day ‹first name›,\n\nthese have no date, so nothing reminds you of them:'
            },
            columns: [
              { field: 'task', caption: '' },
              { field: 'project', caption: '' },
              { field: 'status', caption: '' }
            ]
          })
        ],
        { field: 'due', op: 'is empty' }
      )
    },
    {
      key: 'weekly',
      name: 'What is left of the week, on Fridays',
      purpose: 'Each owner’s open work that is late or due within seven days, in one table.',
      definition: rule(
        [weekly('friday', 'FR', '14:00', { closedDay: 'earlier' })],
        [
          tell('tell', {
            several: {
              subject: '‹count› tasks are late or due by next Friday',
              body: 'Good day ‹first name›,\n\nthis is late, or due within a week:'
            }
          })
        ],
        {
          any: [
            { field: 'overdue', op: 'is yes' },
            { field: 'due', op: 'within the next days', value: 7 }
          ]
        }
      )
    }
  ];
}

/** On its start date work moves on; a workspace without such statuses has no use for it. */
function statusMove(statusIn: StarterBasis['statusIn']): Starter[] {
  const [from, to] = [statusIn('waiting to start'), statusIn('under way')];
  if (from === null || to === null) return [];
  return [
    {
      key: 'begin',
      name: 'Begun on its start date',
      purpose:
        'On the morning of its start date, work that has not been begun moves to the first status under way.',
      definition: rule(
        [offsetLead('start', 0, 'day', { anchor: 'start', time: '07:00', closedDay: 'later' })],
        [act('move', 'move it on', [{ act: 'set status', statusId: to }])],
        { field: 'phase', op: 'is', value: 'waiting to start' }
      )
    }
  ];
}

/** Acts on many tasks at once, for whoever presses their button on a project or over the list. */
function byHand({ statusIn }: StarterBasis): Starter[] {
  const closed = statusIn('closed');
  const button = (id: string, caption: string, confirm: string): Lead => ({
    ...{ kind: 'by hand', id, on: true, only: null, zone: { of: 'owner' }, caption, confirm },
    places: ['project', 'list']
  });
  const reDate: Starter = {
    key: 're-date-late',
    name: 'Late work to the next working day',
    purpose: 'By hand: everything chosen that is overdue and open gets its owner’s next working day.',
    definition: rule(
      [button('press', 'Late work to the next working day', 'Each of these counts as moved once more.')],
      [
        act('date', 'a new date', [
          { act: 'set due', date: { from: 'today', n: 1, unit: 'workday' }, time: null }
        ])
      ],
      { field: 'overdue', op: 'is yes' }
    )
  };
  if (closed === null) return [reDate];
  const calledOff: Starter = {
    key: 'called-off',
    name: 'Called off: its open tasks are closed',
    purpose: 'By hand, on a project: every open task of it is closed and tagged, so that nobody is reminded.',
    definition: rule(
      [button('press', 'Called off: close its open tasks', 'Nobody is reminded of them any more.')],
      [
        act('close', 'close them', [
          { act: 'add tag', tag: 'called off' },
          { act: 'set status', statusId: closed }
        ])
      ]
    )
  };
  return [calledOff, reDate];
}
