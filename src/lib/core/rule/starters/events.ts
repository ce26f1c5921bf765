import { offsetLead } from '../lead-model.ts';
import { tell, act, rule, on, type Starter } from './parts.ts';

/** News of what has just happened, and what is just about to. */
export function whenItHappens(): Starter[] {
  return [
    {
      key: 'assigned',
      name: 'Assigned to you',
      purpose: 'Tells a new owner in their working hours.',
      definition: rule(
        [on('assigned')],
        [
          tell('tell', {
            gather: 'per task',
            subject: 'Yours now: ‹task›',
            body: 'Hello ‹first name›,\n\n‹task›‹in project› is yours. It is ‹days left›.\n\n‹link›'
          })
        ]
      )
    },
    {
      key: 'finished',
      name: 'Finished, to the members of the project',
      purpose: 'Tells everybody in the project when a task is finished.',
      definition: rule(
        [on('finished')],
        [
          tell('tell', {
            to: [{ who: 'members', role: null }],
            subject: '‹task› is finished',
            body: 'Hello ‹first name›,\n\n‹owner› has finished ‹task› (‹project›).\n\n‹link›',
            several: {
              subject: '‹count› tasks are finished',
              body: 'Hello ‹first name›,\n\nThese tasks are finished:'
            }
          })
        ]
      )
    },
    {
      key: 'minutes',
      name: 'An hour and half an hour before',
      purpose: 'For tasks with a time of day: 60 and 30 minutes before it, outside working hours too.',
      definition: rule(
        [offsetLead('sixty', -60, 'minute'), offsetLead('thirty', -30, 'minute')],
        [
          tell('tell', {
            gather: 'per task',
            reach: 'any time',
            subject: '‹task›: ‹due›',
            body: 'Hello ‹first name›,\n\n‹task› is due ‹due›.\n\n‹link›'
          })
        ],
        { field: 'timed', op: 'is yes' }
      )
    }
  ];
}

/** What new work gets that lacks it. */
export function newWork(): Starter[] {
  return [
    {
      key: 'defaults',
      name: 'New tasks without an owner or a date',
      purpose: 'New tasks without an owner go to their creator; without a date, due in 5 working days.',
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
                  act('give', 'set the owner to its creator', [{ act: 'assign', to: { who: 'creator' } }])
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
