import fc from 'fast-check';
import { CodedError } from '../../src/lib/core/errors.ts';
import type { Lead, OffsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import type { BulkChange } from '../../src/lib/server/task/bulk-schema.ts';
import { on, rule, step, tell } from './rules.ts';
import {
  lead,
  MANAGER,
  openWorkspace,
  ruleOf,
  ruleOn,
  SEES_ALL,
  taskInput,
  type TestWorkspace
} from './workspace.ts';

/** Any act on a workspace with rules of every kind, for properties of what acts do: they are previewed, done and taken back. */
export const START = Date.parse('2026-03-05T07:00:00Z');
export const TASKS = 6;
const FINISHED = 3;

const atEight: Partial<OffsetLead> = { time: '08:00', zone: { of: 'workspace' } };
const byHand: Lead = {
  ...{ kind: 'by hand', id: 'hand', on: true, only: null, zone: { of: 'workspace' } },
  ...{ caption: 'Wind up', places: ['task', 'list'] }
};
const morning: Lead = {
  ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone: { of: 'workspace' } },
  ...{ rrule: 'FREQ=DAILY', start: '2026-01-02', time: '08:00', closedDay: 'as-is', oncePerDate: false }
};
const inHours = { reach: 'working hours' as const, subject: '‹task›' };
const tagged = (tag: string) => ({
  ...{ ...step(tag), kind: 'do' as const, ask: null },
  acts: [{ act: 'add tag' as const, tag }]
});
const wait = {
  ...{ ...step('wait'), kind: 'wait' as const, n: 1, unit: 'day' as const },
  ...{ time: null, closedDay: 'as-is' as const, regardless: true }
};
const whenFinished = { watch: { ...rule([], []).watch, states: ['finished' as const] } };

/** Rules of time tell; those of events and by hand act as well, wait and ask. @returns the one by hand, and one of time */
export function layOut(workspace: TestWorkspace): { ids: number[]; hand: number; timed: number } {
  const make = (name: string, ...definition: Parameters<typeof ruleOn>[1][]) =>
    ruleOn(workspace, definition[0]!, name);
  const timed = make(
    'before',
    ruleOf([lead(-2, 'day', atEight), lead(-1, 'day', atEight), lead(0, 'day', atEight)], {
      ...inHours,
      to: [{ who: 'owner' }, MANAGER]
    })
  );
  make(
    'late',
    ruleOf([lead(1, 'day', { ...atEight, repeat: { n: 1, unit: 'day', most: 50 } })], {
      ...inHours,
      noticeKind: 'overdue'
    })
  );
  make('morning', { ...ruleOf([morning], inHours), watch: { ...rule([], []).watch, tags: ['urgent'] } });
  make('finished', rule([on('finished')], [tagged('done'), wait, tagged('old'), tell('tell')], whenFinished));
  make('assigned', rule([on('assigned')], [tell('tell', { noticeKind: 'assigned' })]));
  make(
    'moved',
    rule(
      [on('field changed', { id: 'moved', field: 'priority' })],
      [
        {
          ...{ ...tagged('asked'), id: 'ask' },
          ask: { question: 'Is it?', workingDays: 1, otherwise: 'yes' as const }
        }
      ]
    )
  );
  const hand = make('hand', rule([byHand], [tagged('wound up'), wait, tell('tell')]));
  const names = Object.values(workspace.people);
  const ids = Array.from({ length: TASKS }, (_, i) => {
    const ownerId = names[i % names.length]!;
    return workspace.container.tasks.add(
      workspace.coordinator,
      taskInput({
        ...{ name: `Task ${i}`, ownerId, dueDate: `2026-03-${String(4 + i).padStart(2, '0')}` },
        ...{ projectId: i % 2 === 0 ? workspace.project : null },
        ...(i === 3 ? { tags: ['urgent'] } : {}),
        ...(i === 4 ? { rhythm: { n: 1, unit: 'week' as const }, renewFrom: 'due' as const } : {})
      })
    ).result;
  });
  return { ids, hand, timed };
}

export type AnyAct =
  | { bulk: BulkChange }
  | { does: 'rings by hand' | 'calls off' | 'turns off' | 'hushes' | 'is away' | 'closes a day' | 'adds' };
export const anyAct: fc.Arbitrary<AnyAct> = fc.oneof(
  fc.record({
    bulk: fc.constantFrom<BulkChange[]>(
      { act: 'status', id: FINISHED },
      { act: 'status', id: 2 },
      { act: 'due', date: '2026-03-06' },
      { act: 'due', date: '2026-03-20' },
      { act: 'due', date: null },
      { act: 'shift', n: 2, unit: 'workday' },
      { act: 'owner', id: 3 },
      { act: 'owner', id: null },
      { act: 'priority', priority: 'high' },
      { act: 'project', id: null },
      { act: 'tag', name: 'urgent' },
      { act: 'park', date: '2026-03-12' },
      { act: 'archive' },
      { act: 'bin' }
    )
  }),
  fc.record({
    does: fc.constantFrom(
      ...(['rings by hand', 'calls off', 'turns off', 'hushes', 'is away', 'closes a day', 'adds'] as const)
    )
  })
);

export function doAct(
  { container, coordinator, people, project }: TestWorkspace,
  { ids, hand, timed }: ReturnType<typeof layOut>,
  chosen: readonly number[],
  what: AnyAct
): number {
  const some = chosen.map((i) => ids[i]!);
  const viewer = { zone: container.source.facts.workspace.zone, personId: people.Ines! };
  if ('bulk' in what) {
    const input = { ids: some, query: '', change: what.bulk };
    return container.bulk.apply(coordinator, input, viewer, { ...SEES_ALL, personId: people.Ines! }).changeId;
  }
  const write = (title: string, table: 'leave' | 'calendar_day', row: Record<string, string | number>) =>
    container.committer.commit(coordinator, title, (writer) => writer.insert(table, row)).changeId;
  switch (what.does) {
    case 'rings by hand':
      return container.handRings.ringOver(coordinator, hand, some).changeId;
    case 'calls off': {
      const { id: _, ...was } = container.stores.projects.byId(project)!;
      return container.projects.edit(coordinator, project, { ...was, state: 'called off' } as never).changeId;
    }
    case 'turns off':
      return container.rules.turnOff(coordinator, timed).changeId;
    case 'hushes': {
      const zone = zoneNamed('Europe/Lisbon');
      return container.quiet.hush(coordinator, { of: 'task', id: some[0]! }, '2026-03-20', zone).changeId;
    }
    case 'is away':
      return write('away', 'leave', {
        ...{ person_id: people.Meera!, stand_in_id: people.Salim! },
        ...{ from_at: '2026-03-05T00:00', until_at: '2026-03-20T00:00' }
      });
    case 'closes a day':
      if (
        container.source
          .input()
          .calendars.some(({ id, days }) => id === 1 && days.some(({ date }) => date === '2026-03-09'))
      )
        throw new CodedError('bulk-nothing');
      return write('a holiday', 'calendar_day', { calendar_id: 1, date: '2026-03-09', name: 'Holiday' });
    case 'adds':
      return container.tasks.add(coordinator, taskInput({ ownerId: people.Tess!, dueDate: '2026-03-07' }))
        .changeId;
  }
}

/** Null where what was chosen is as it would be made. */
export function ifAnything(work: () => number): number | null {
  try {
    return work();
  } catch (error) {
    if (error instanceof CodedError && error.code === 'bulk-nothing') return null;
    throw error;
  }
}

/** A workspace laid out, its digest off. */
export async function opened(): Promise<{ workspace: TestWorkspace; laid: ReturnType<typeof layOut> }> {
  const workspace = await openWorkspace(new Date(START).toISOString());
  workspace.container.digests.turn(workspace.coordinator, 1, 'off');
  return { workspace, laid: layOut(workspace) };
}
