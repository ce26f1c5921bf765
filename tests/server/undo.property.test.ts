import fc from 'fast-check';
import { expect, it } from 'vitest';
import { leadOf } from '../../src/lib/core/forecast/facts/compile-rule.ts';
import type { PlannedNotice } from '../../src/lib/core/forecast/plan/planned-notice.ts';
import type { NoticeRecord } from '../../src/lib/server/store/notices.ts';
import { RECORDED_TABLES } from '../../src/lib/server/store/recorded-tables.ts';
import { drawn } from '../support/drawn.ts';
import { anyAct, doAct, ifAnything, opened, START, TASKS } from '../support/acts.ts';
import type { TestWorkspace } from '../support/workspace.ts';

/**
 * An act that is taken back at any later moment leaves the rows, the plan, what waits and the forecast that would be there if nobody had ever
 * acted, apart from what had left and what passed meanwhile. Two workspaces that are the same; in one of them somebody acts and thinks better of it.
 * Long form: RUNS=300.
 */
const HOUR = 3_600_000;
const WEEK = 7 * 24 * HOUR;

const keyOf = (notice: PlannedNotice) =>
  [notice.ruleId, notice.leadId, notice.ordinal, notice.stepId, notice.taskId, notice.recipientId].join('/');

/** Whether it left since, or another message of the same moment said it. */
function isLeft({ state, reason, leavesAt }: NoticeRecord, since: number): boolean {
  const isSaid = state === 'unrung' && reason === 'same moment';
  return (isSaid || ['sending', 'sent'].includes(state)) && leavesAt! >= since;
}

/** Rings of dates as they stand that came or left meanwhile, as where a holiday had brought one forward. They do not come again. */
function rungOf({ container: { stores, source } }: TestWorkspace, { from, until }: Meanwhile): Set<string> {
  const rung = stores.notices.rungBetween(0, until).filter((notice) => {
    if (notice.ringAt <= from && !isLeft(notice, from)) return false;
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

/** What left meanwhile where nobody acted. Where a day was closed it may be kept still, past the hours of the day that was given back. */
function leftOf({ container }: TestWorkspace, { from, until }: Meanwhile): Set<string> {
  const left = container.stores.notices.rungBetween(0, until).filter((notice) => isLeft(notice, from));
  return new Set(left.map((notice) => keyOf(notice as never)));
}

interface Passed {
  rung: ReadonlySet<string>;
  left: ReadonlySet<string>;
}

/** Everything that an undo answers for. @param meanwhile when it was done and when taken back: what rang between is left out */
function stateOf({ container }: TestWorkspace, meanwhile: Meanwhile, { rung, left }: Passed) {
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
    .filter((one) => !between(one.ringAt) && !rung.has(keyOf(one as never)) && !left.has(keyOf(one as never)))
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

it('act, then undo: as if nobody had acted, but for what had left', async () => {
  await fc.assert(
    fc.asyncProperty(
      anyAct,
      fc.uniqueArray(fc.nat(TASKS - 1), { minLength: 1, maxLength: 4 }),
      fc.integer({ min: 0, max: 30 * 60 }),
      fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 4 * 24 * 60 })),
      async (what, chosen, before, after) => {
        const [one, other] = [await opened(), await opened()];
        try {
          const from = START + before * 60_000;
          const until = from + after * 60_000;
          for (const { workspace } of [one, other]) await workspace.container.engine.moveClock(from);
          const changeId = ifAnything(() => doAct(one.workspace, one.laid, chosen, what));
          if (changeId === null) return;
          for (const { workspace } of [one, other]) await workspace.container.engine.moveClock(until);
          one.workspace.container.committer.undo(changeId, one.workspace.people.Ines!);
          for (const { workspace } of [one, other]) await workspace.container.engine.tick();
          const meanwhile = { from, until };
          const passed = { rung: rungOf(one.workspace, meanwhile), left: leftOf(other.workspace, meanwhile) };
          expect(stateOf(one.workspace, meanwhile, passed)).toEqual(
            stateOf(other.workspace, meanwhile, passed)
          );
        } finally {
          await one.workspace.close();
          await other.workspace.close();
        }
      }
    ),
    {
      ...drawn(12),
      // A notice kept over a closed day, which was given back after its hours: it leaves on the next day, and had left where nobody acted.
      examples: [[{ does: 'closes a day' }, [0], 1500, 4201]]
    }
  );
}, 600_000);
