import { offsetLead, type Lead } from '../lead-model.ts';
import { act, rule, type Starter, type StarterBasis } from './parts.ts';

/** On its start date work moves on; a workspace without such statuses has no use for it. */
export function statusMove(statusIn: StarterBasis['statusIn']): Starter[] {
  const [from, to] = [statusIn('waiting to start'), statusIn('under way')];
  if (from === null || to === null) return [];
  return [
    {
      key: 'begin',
      name: 'Start work on its start date',
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
export function byHand({ statusIn }: StarterBasis): Starter[] {
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
    name: 'Close open tasks of a project called off',
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
