import { groupBy } from '../../core/group-by.ts';
import type { RanRecord, ToldRecord } from '../../core/forecast/simulate/rule-history.ts';
import type { ToldBefore } from '../../core/forecast/simulate/simulated.ts';
import type { Db } from '../db/open.ts';
import { OCCUPIES, type NoticeRecord, type NoticeState, type RingKey } from './notices.ts';

const LEFT = `n.state IN ('sending', 'sent', 'in doubt')`;
const HAS_RUN = `(u.step > 0 OR u.state <> 'running')`;
const COUNTS = `coalesce(u.outcome, '') NOT IN ('hushed', 'same moment')`;
const OF_ROUND = `FROM notice n JOIN ring g ON g.id = n.ring_id JOIN task t ON t.id = g.subject_id
  WHERE g.subject_kind = 'task' AND g.round = t.round`;

/** Whom a ring rang for, and what became of it. */
export interface RungFor {
  recipientId: number;
  state: NoticeState;
  reason: string | null;
  /** When it left or leaves, or was found not to; null while it waits without an end. */
  decidedAt: number | null;
}

/** Why a notice was withdrawn that is not made up for: whoever wanted quiet is not told afterwards. */
const FOR_QUIET: readonly (string | null)[] = ['hushed', 'acknowledged'];

/** Whether a ring is done with for whoever it rang for: what was withdrawn is as if it had never been, but where somebody wanted quiet. */
export function isDone({ state, reason }: RungFor): boolean {
  return state !== 'withdrawn' || FOR_QUIET.includes(reason);
}

/** What has been told already, as rules ask for it: by ring, by lead, by task and recipient. */
export class TellingStore {
  readonly #rung;
  readonly #tasksRung;
  readonly #left;
  readonly #leftTo;
  readonly #ringsSoFar;
  readonly #lastLeft;
  readonly #told;
  readonly #ofRule;
  readonly #ranOfRule;
  readonly #allSince;
  readonly #beside;
  readonly #later;
  readonly #ran;

  constructor(db: Db) {
    this.#beside = db.prepare<[NoticeRecord], { leadId: string }>(
      `SELECT g.lead_id AS leadId FROM notice n JOIN ring g ON g.id = n.ring_id
       WHERE n.recipient_id = @recipientId AND n.leaves_at = @leavesAt AND n.id <> @id AND n.step_id = @stepId AND n.snooze = @snooze
       AND g.rule_id = @ruleId AND g.subject_kind = 'task' AND g.subject_id = @taskId
       AND n.state IN ('sending', 'sent', 'in doubt', 'failed') LIMIT 1`
    );
    this.#later = db.prepare<
      [Pick<NoticeRecord, 'ruleId' | 'taskId' | 'stepId' | 'recipientId' | 'ringAt'>],
      { id: number }
    >(
      `SELECT n.id FROM ring g JOIN notice n ON n.ring_id = g.id
       WHERE g.rule_id = @ruleId AND g.subject_kind = 'task' AND g.subject_id = @taskId AND n.step_id = @stepId
       AND n.recipient_id = @recipientId AND n.ring_at > @ringAt AND ${OCCUPIES} LIMIT 1`
    );
    this.#tasksRung = db.prepare<[string], { taskId: number }>(
      `SELECT value AS taskId FROM json_each(?)
       WHERE EXISTS (SELECT 1 FROM ring g WHERE g.subject_kind = 'task' AND g.subject_id = value)`
    );
    this.#rung = db.prepare<[RingKey & { stepId: string }], RungFor>(
      `SELECT n.recipient_id AS recipientId, n.state, n.reason, coalesce(n.leaves_at, n.ended_at) AS decidedAt FROM notice n JOIN ring g ON g.id = n.ring_id
       WHERE g.rule_id = @ruleId AND g.lead_id = @leadId AND g.ordinal = @ordinal AND g.subject_kind = 'task'
       AND g.subject_id = @taskId AND g.anchor_value = @anchorValue AND g.round = @round
       AND n.step_id = @stepId`
    );
    this.#left = db.prepare<[Omit<RingKey, 'ordinal'> & { recipientId: number }], { count: number }>(
      `SELECT count(*) AS count FROM notice n JOIN ring g ON g.id = n.ring_id
       WHERE g.rule_id = @ruleId AND g.lead_id = @leadId AND g.subject_kind = 'task' AND g.subject_id = @taskId
       AND g.anchor_value = @anchorValue AND g.round = @round AND n.recipient_id = @recipientId AND ${LEFT}`
    );
    this.#ran = db.prepare<[Omit<RingKey, 'ordinal'>], { count: number }>(
      `SELECT count(*) AS count FROM run u JOIN ring g ON g.id = u.ring_id
       WHERE g.rule_id = @ruleId AND g.lead_id = @leadId AND g.subject_kind = 'task' AND g.subject_id = @taskId
       AND g.anchor_value = @anchorValue AND g.round = @round AND ${HAS_RUN} AND ${COUNTS}`
    );
    this.#leftTo = db.prepare<[number, number, number], { count: number }>(
      `SELECT count(*) AS count ${OF_ROUND} AND g.rule_id = ? AND g.subject_id = ? AND n.recipient_id = ? AND ${LEFT}`
    );
    this.#ringsSoFar = db.prepare<[number, number], { count: number }>(
      `SELECT count(*) AS count ${OF_ROUND} AND g.rule_id = ? AND g.subject_id = ? AND ${LEFT}`
    );
    this.#lastLeft = db.prepare<[number, string, number], { at: number | null }>(
      `SELECT max(n.leaves_at) AS at ${OF_ROUND} AND g.rule_id = ? AND g.lead_id = ? AND g.subject_id = ? AND ${LEFT}`
    );
    this.#told = db.prepare<[number, number], Omit<ToldBefore, 'forced'> & { forced: number }>(
      `SELECT n.leaves_at AS leavesAt, coalesce(n.reader_id, n.recipient_id) AS readerId, g.rule_id AS ruleId, n.kind, n.forced
       FROM notice n JOIN ring g ON g.id = n.ring_id
       WHERE g.subject_kind = 'task' AND g.subject_id = ? AND n.leaves_at >= ? AND ${LEFT}`
    );
    this.#ofRule = db.prepare<[number], Omit<ToldRecord, 'left'> & { left: number }>(
      `SELECT g.lead_id AS leadId, g.ordinal, g.subject_id AS taskId, g.anchor_value AS anchorValue, g.round,
       n.recipient_id AS recipientId, n.step_id AS stepId, ${LEFT} AS "left", coalesce(n.leaves_at, n.ring_at) AS leavesAt, n.kind
       FROM notice n JOIN ring g ON g.id = n.ring_id
       WHERE g.rule_id = ? AND g.subject_kind = 'task' AND n.snooze = 0 AND ${OCCUPIES}`
    );
    this.#ranOfRule = db.prepare<[number], Omit<RanRecord, 'counts'> & { counts: number }>(
      `SELECT g.lead_id AS leadId, g.ordinal, g.subject_id AS taskId, g.anchor_value AS anchorValue, g.round, ${COUNTS} AS counts
       FROM run u JOIN ring g ON g.id = u.ring_id
       WHERE g.rule_id = ? AND g.subject_kind = 'task' AND ${HAS_RUN}`
    );
    this.#allSince = db.prepare<[number], Omit<ToldBefore, 'forced'> & { forced: number; taskId: number }>(
      `SELECT g.subject_id AS taskId, n.leaves_at AS leavesAt, coalesce(n.reader_id, n.recipient_id) AS readerId, g.rule_id AS ruleId,
       n.kind, n.forced FROM notice n JOIN ring g ON g.id = n.ring_id
       WHERE g.subject_kind = 'task' AND n.leaves_at >= ? AND ${LEFT} ORDER BY g.subject_id`
    );
  }

  /** Those of some tasks for which something has rung. */
  tasksRung(ids: readonly number[]): Set<number> {
    return new Set(this.#tasksRung.all(JSON.stringify(ids)).map(({ taskId }) => taskId));
  }

  /** Whom a ring has told by a Tell, or was to tell. */
  rung(key: RingKey & { stepId: string }): RungFor[] {
    return this.#rung.all(key);
  }

  /** How many notices of a lead have left to a recipient for one anchor value. */
  left(key: Omit<RingKey, 'ordinal'> & { recipientId: number }): number {
    return this.#left.get(key)!.count;
  }

  /** How many runs of a lead have begun for one anchor value; one that was hushed, or stood aside for another of its moment, does not count. */
  ran({ ruleId, leadId, taskId, anchorValue, round }: Omit<RingKey, 'ordinal'>): number {
    return this.#ran.get({ ruleId, leadId, taskId, anchorValue, round })!.count;
  }

  /** How many notices of a rule have left to a recipient about a task in its round. */
  leftTo(ruleId: number, taskId: number, recipientId: number): number {
    return this.#leftTo.get(ruleId, taskId, recipientId)!.count;
  }

  /** How many notices of a rule have left about a task in its round. */
  ringsSoFar(ruleId: number, taskId: number): number {
    return this.#ringsSoFar.get(ruleId, taskId)!.count;
  }

  /** When the last notice of a lead left for a task in its round. */
  lastLeft(ruleId: number, leadId: string, taskId: number): number | null {
    return this.#lastLeft.get(ruleId, leadId, taskId)!.at;
  }

  /** What has left about a task at an instant or after it. */
  since(taskId: number, at: number): ToldBefore[] {
    return this.#told.all(taskId, at).map((row) => ({ ...row, forced: row.forced === 1 }));
  }

  /** Every notice of a rule that occupies its key. */
  ofRule(ruleId: number): ToldRecord[] {
    return this.#ofRule.all(ruleId).map((row) => ({ ...row, left: row.left === 1 }));
  }

  /** Rings of a rule whose steps have been gone through. */
  ranOfRule(ruleId: number): RanRecord[] {
    return this.#ranOfRule.all(ruleId).map((row) => ({ ...row, counts: row.counts === 1 }));
  }

  /** What has left about any task at an instant or after it, by task. */
  allSince(at: number): [taskId: number, told: ToldBefore[]][] {
    const groups = groupBy(this.#allSince.all(at), ({ taskId }) => taskId);
    return [...groups].map(([taskId, rows]) => [
      taskId,
      rows.map(({ taskId: _taskId, forced, ...row }) => ({ ...row, forced: forced === 1 }))
    ]);
  }

  /** Whether somebody has been told, or is about to be, of a later ring of the same rule and Tell about a task. */
  isToldLater(
    of: Pick<NoticeRecord, 'ruleId' | 'taskId' | 'stepId' | 'ringAt'>,
    recipientId: number
  ): boolean {
    const { ruleId, taskId, stepId, ringAt } = of;
    return this.#later.get({ ruleId, taskId, stepId, ringAt, recipientId }) !== undefined;
  }

  /** The lead whose notice has left already at the same moment, by the same Tell, of the same task, to the same recipient; null without one. */
  beside(notice: NoticeRecord): string | null {
    const { id, recipientId, leavesAt, stepId, snooze, ruleId, taskId } = notice;
    const key = { id, recipientId, leavesAt, stepId, snooze, ruleId, taskId };
    return this.#beside.get(key as NoticeRecord)?.leadId ?? null;
  }
}
