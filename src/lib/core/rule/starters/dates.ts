import { tell, rule, makers, type Starter, type StarterBasis } from './parts.ts';

/** Reminders before, on and after the date. */
export function aroundTheDate(basis: StarterBasis): Starter[] {
  const { at } = makers(basis);
  return [
    {
      key: 'two-leads',
      name: 'Five working days ahead, and the day before',
      purpose: 'Tells the owner twice before the date, one message per person.',
      definition: rule([at('five', -5, 'workday'), at('one', -1, 'workday')], [tell('tell')])
    },
    {
      key: 'due-today',
      name: 'Due today',
      purpose: 'On the morning of the due date, one message with all tasks of the day.',
      definition: rule(
        [at('day', 0, 'day')],
        [
          tell('tell', {
            several: {
              subject: '‹count› tasks are due today',
              body: 'Hello ‹first name›,\n\nThese tasks are due today:'
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
            body: 'Hello ‹first name›,\n\n‹task›‹in project› is ‹days left›. Finish it, or give it a new date.\n\n‹link›',
            several: {
              subject: '‹count› of your tasks are past their dates',
              body: 'Hello ‹first name›,\n\nThese tasks are overdue. Finish them, or set new dates:'
            }
          })
        ]
      )
    },
    {
      key: 'important-ahead',
      name: 'Important work, to the manager before the date',
      purpose: 'Tells the owner’s manager: pressing tasks 3 working days ahead, high ones 1.',
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
            body: 'Hello ‹first name›,\n\n‹task› of ‹owner› (‹project›) has ‹priority› priority and is ‹days left›: ‹due›. Status: ‹status›.\n\n‹link›'
          })
        ]
      )
    }
  ];
}
