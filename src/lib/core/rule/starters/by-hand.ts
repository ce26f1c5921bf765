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
      purpose: 'On the morning of its start date, tasks not started move to the first status under way.',
      definition: rule(
        [offsetLead('start', 0, 'day', { anchor: 'start', time: '07:00', closedDay: 'later' })],
        [act('move', 'set the status', [{ act: 'set status', statusId: to }])],
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
    name: 'Overdue tasks to the next working day',
    purpose: 'By hand: chosen overdue tasks get the owner’s next working day as due date.',
    definition: rule(
      [button('press', 'Overdue tasks to the next working day', 'Each task counts as postponed once more.')],
      [
        act('date', 'set a new date', [
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
    purpose: 'By hand, on a project: its open tasks are closed and tagged. Nobody is reminded.',
    definition: rule(
      [button('press', 'Called off: close its open tasks', 'Nobody is reminded of them again.')],
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
