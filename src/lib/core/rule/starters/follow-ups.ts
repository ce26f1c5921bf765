import { tell, act, rule, makers, type Starter, type StarterBasis } from './parts.ts';

/** Work that follows from work. */
export function followedUp(basis: StarterBasis): Starter[] {
  const { at } = makers(basis);
  return [
    {
      key: 'follow-up',
      name: 'A follow-up when a task is overdue',
      purpose: 'Adds one follow-up task for the keeper, 2 working days after the due date.',
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
        'Tells the owner 30 days before the date. Two working days later, at 09:00, it adds a follow-up call.',
      definition: rule(
        [at('month', -30, 'day', { closedDay: 'later' })],
        [
          tell('tell', {
            gather: 'per task',
            subject: '‹task› is ‹days left›',
            body: 'Hello ‹first name›,\n\n‹task› is ‹days left›: ‹due›. In two working days a follow-up call is added to your tasks.\n\n‹link›'
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
