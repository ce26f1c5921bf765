import { offsetLead } from '../lead-model.ts';
import { tell, act, rule, makers, type Starter, type StarterBasis } from './parts.ts';

/** What keeps the list in order. */
export function kept({ noticeTime }: StarterBasis): Starter[] {
  return [
    {
      key: 'log-time',
      name: 'Time still to be logged',
      purpose: '1 working day after finishing, if time must be logged and is not: tells the owner.',
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
export function listed(basis: StarterBasis): Starter[] {
  const { weekly } = makers(basis);
  const { noticeTime } = basis;
  return [
    {
      key: 'undated',
      name: 'Tasks without a date, on Mondays',
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
