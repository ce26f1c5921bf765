import fc from 'fast-check';
import { expect, it } from 'vitest';
import { CodedError } from '../../src/lib/core/errors.ts';
import type { Lead, OffsetLead } from '../../src/lib/core/rule/model.ts';
import { leadOf } from '../../src/lib/core/forecast/compile-rule.ts';
import type { PlannedNotice } from '../../src/lib/core/forecast/planned-notice.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { RECORDED_TABLES } from '../../src/lib/server/store/changes.ts';
import type { BulkChange } from '../../src/lib/server/schema/bulk.ts';
import { on, rule, step, tell } from '../support/rules.ts';
import { lead, MANAGER, openWorkspace, ruleOf, ruleOn, SEES_ALL, taskInput } from '../support/workspace.ts';
import type { TestWorkspace } from '../support/workspace.ts';

/**
 * An act that is taken back at any later moment leaves the rows, the plan, what waits and the forecast that would be there if nobody had ever
 * acted, apart from what had left and what passed meanwhile. Two workspaces that are the same; in one of them somebody acts and thinks better of it.
 * Long form: UNDO_RUNS=300.
 */
const RUNS = Number(process.env.UNDO_RUNS ?? 12);
const START = Date.parse('2026-03-05T07:00:00Z');
const HOUR = 3_600_000;
const WEEK = 7 * 24 * HOUR;
const TASKS = 6;
const FINISHED = 3;

const atEight: Partial<OffsetLead> = { time: '08:00', zone: { of: 'workspace' } };
const byHand: Lead = {
  ...{ kind: 'by hand', id: 'hand', on: true, only: null, zone: { of: 'workspace' } },
  ...{ caption: 'Wind up', places: ['task', 'list'] }
} as Lead;
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
function layOut(workspace: TestWorkspace): { ids: number[]; hand: number; timed: number } {
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

type Act =
  | { bulk: BulkChange }
  | { does: 'rings by hand' | 'calls off' | 'turns off' | 'hushes' | 'is away' | 'closes a day' | 'adds' };
const acts: fc.Arbitrary<Act> = fc.oneof(
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

function act(
  { container, coordinator, people, project }: TestWorkspace,
  { ids, hand, timed }: ReturnType<typeof layOut>,
  chosen: readonly number[],
  what: Act
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
      return write('a holiday', 'calendar_day', { calendar_id: 1, date: '2026-03-09', name: 'Holiday' });
    case 'adds':
      return container.tasks.add(coordinator, taskInput({ ownerId: people.Tess!, dueDate: '2026-03-07' }))
        .changeId;
  }
}

/** Null where what was chosen is as it would be made. */
function ifAnything(work: () => number): number | null {
  try {
    return work();
  } catch (error) {
    if (error instanceof CodedError && error.code === 'bulk-nothing') return null;
    throw error;
  }
}

const keyOf = (notice: PlannedNotice) =>
  [notice.ruleId, notice.leadId, notice.ordinal, notice.stepId, notice.taskId, notice.recipientId].join('/');

/** Rings of dates as they stand that came or left meanwhile, as where a holiday had brought one forward. They do not come again. */
function rungOf({ container: { stores, source } }: TestWorkspace, { from, until }: Meanwhile): Set<string> {
  const rung = stores.notices.rungBetween(0, until).filter((notice) => {
    const isSaid = notice.state === 'unrung' && notice.reason === 'same moment';
    const isLeft = (isSaid || ['sending', 'sent'].includes(notice.state)) && notice.leavesAt! >= from;
    if (notice.ringAt <= from && !isLeft) return false;
    const task = stores.tasks.factsOf(notice.taskId);
    const lead = leadOf(source.live(notice.ruleId)?.facts, task, notice.leadId);
    if (!task || !lead?.anchor || !source.planner.anchor(lead, task)) return false;
    return source.planner.anchorValue(lead, task) === notice.anchorValue;
  });
  return new Set(rung.map((notice) => keyOf(notice as never)));
}

interface Meanwhile {
  from: number;
  until: number;
}

/** Everything that an undo answers for. @param meanwhile when it was done and when taken back: what rang between is left out */
function stateOf({ container }: TestWorkspace, meanwhile: Meanwhile, rung: ReadonlySet<string>) {
  const { db, stores, forecasts } = container;
  const rows = (table: string) =>
    (db.prepare(`SELECT * FROM ${table}`).all() as Record<string, unknown>[])
      .map(({ id, ...row }) => JSON.stringify(table === 'task' ? { id, ...row } : row))
      .sort();
  const between = (at: number) => at > meanwhile.from && at <= meanwhile.until;
  const plan = db
    .prepare('SELECT task_id, rule_id, lead_id, recipient_id, ordinal, ring_at, brought_from FROM plan')
    .all()
    .filter((row) => {
      const { rule_id, lead_id, ordinal, task_id, recipient_id } = row as Record<string, unknown>;
      return !rung.has([rule_id, lead_id, ordinal, 'tell', task_id, recipient_id].join('/'));
    })
    .map((row) => JSON.stringify(row))
    .sort();
  const waiting = stores.notices
    .waiting()
    .filter((one) => !between(one.ringAt) && !rung.has(keyOf(one as never)))
    .map((one) => `${keyOf(one as never)} ${one.state} ${one.leavesAt} ${one.readerId}`)
    .sort();
  const runs = stores.runs
    .waiting()
    .filter(({ startedAt }) => !between(startedAt))
    .map(({ ruleId, taskId, step: at, nextAt, state }) => [ruleId, taskId, at, nextAt, state].join('/'))
    .sort();
  // Within the hour one message can stand for another, and so can what had left.
  const soon = meanwhile.until + HOUR;
  const ahead = forecasts
    .notices(meanwhile.until, meanwhile.until + WEEK)
    .filter((one) => one.ringAt > soon && !rung.has(keyOf(one)))
    .map((one) => `${keyOf(one)} ${one.ringAt} ${one.leavesAt} ${one.unrung}`)
    .sort();
  const recorded = RECORDED_TABLES.map((table) => [table, rows(table)] as const);
  return { ...Object.fromEntries(recorded), plan, waiting, runs, ahead };
}

async function opened(): Promise<{ workspace: TestWorkspace; laid: ReturnType<typeof layOut> }> {
  const workspace = await openWorkspace(new Date(START).toISOString());
  workspace.container.digests.turn(workspace.coordinator, 1, 'off');
  return { workspace, laid: layOut(workspace) };
}

it('act, then undo: as if nobody had acted, but for what had left', async () => {
  await fc.assert(
    fc.asyncProperty(
      acts,
      fc.uniqueArray(fc.nat(TASKS - 1), { minLength: 1, maxLength: 4 }),
      fc.integer({ min: 0, max: 30 * 60 }),
      fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 4 * 24 * 60 })),
      async (what, chosen, before, after) => {
        const [one, other] = [await opened(), await opened()];
        try {
          const from = START + before * 60_000;
          const until = from + after * 60_000;
          for (const { workspace } of [one, other]) await workspace.container.engine.moveClock(from);
          const changeId = ifAnything(() => act(one.workspace, one.laid, chosen, what));
          if (changeId === null) return;
          for (const { workspace } of [one, other]) await workspace.container.engine.moveClock(until);
          one.workspace.container.committer.undo(changeId, one.workspace.people.Ines!);
          for (const { workspace } of [one, other]) await workspace.container.engine.tick();
          const meanwhile = { from, until };
          const rung = rungOf(one.workspace, meanwhile);
          expect(stateOf(one.workspace, meanwhile, rung)).toEqual(stateOf(other.workspace, meanwhile, rung));
        } finally {
          await one.workspace.close();
          await other.workspace.close();
        }
      }
    ),
    { numRuns: RUNS }
  );
}, 600_000);
