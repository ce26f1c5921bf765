import { offsetLead } from '../lead-model.ts';
import { tell, act, rule, makers, type Starter, type StarterBasis } from './parts.ts';

/** What keeps the list in order. */
export function kept({ noticeTime }: StarterBasis): Starter[] {
  return [
    {
      key: 'log-time',
      name: 'Time not logged',
      purpose: '1 working day after finishing, if time must be logged and is not: tells the owner.',
      definition: rule(
        [offsetLead('after', 1, 'workday', { anchor: 'finished', time: noticeTime })],
        [
          tell('tell', {
            subject: 'Log your time for ‹task›',
            body: 'Hello ‹first name›,\n\n‹task› is finished, but no time is logged for it.\n\n‹link›',
            several: {
              subject: 'Log your time for ‹count› tasks',
              body: 'Hello ‹first name›,\n\nThese tasks are finished, but no time is logged:'
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
        'After 15 working days without a change it asks the owner. With a yes, the task is parked for a month.',
      definition: rule(
        [offsetLead('stale', 15, 'workday', { anchor: 'last touched', time: noticeTime })],
        [
          act('park', 'park it', [{ act: 'park', review: { from: 'today', n: 30, unit: 'day' } }], {
            question: 'Nobody has changed this for 15 working days. May it be parked for a month?',
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
      purpose: 'Once a week each owner gets the list of their tasks without a date.',
      definition: rule(
        [weekly('monday', 'MO', noticeTime)],
        [
          tell('tell', {
            subject: '‹task› has no date',
            body: 'Hello ‹first name›,\n\n‹task› has no due date, so no rule reminds you of it.\n\n‹link›',
            several: {
              subject: '‹count› of your tasks have no date',
              body: 'Hello ‹first name›,\n\nThese tasks have no due date, so no rule reminds you of them:'
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
      name: 'Due by next Friday (sent on Fridays)',
      purpose: 'Each owner’s tasks that are overdue or due within seven days, in one table.',
      definition: rule(
        [weekly('friday', 'FR', '14:00', { closedDay: 'earlier' })],
        [
          tell('tell', {
            several: {
              subject: '‹count› tasks are late or due by next Friday',
              body: 'Hello ‹first name›,\n\nThese tasks are overdue, or due within a week:'
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
