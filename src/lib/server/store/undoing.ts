import type { NoticeKind } from '../../core/notice/kinds.ts';
import type { Db } from '../db/open.ts';

/** What is not made up for once something was brought back by an undo. */
export type BroughtBack = { kind: 'task' | 'project' | 'rule'; id: number } | { kind: 'workspace'; id: 0 };

/** What waited until a change was made, and waits again when it is taken back. */
export interface WaitsAgain {
  /** When the change was made, workspace clock. */
  since: number;
  now: number;
  /** Tasks that it touched; null where it touched what all of them depend on. */
  taskIds: readonly number[] | null;
  /** Reasons for a withdrawal that stand all the same. */
  stands: readonly string[];
}

/** A message that left because of what was taken back. */
export interface LeftMessage {
  messageId: number;
  readerId: number;
  subject: string;
  /** Workspace clock. */
  leavesAt: number;
  taskId: number;
  kind: NoticeKind;
}

/** A message that left in a span, with what rang it. */
export interface LeftSince extends LeftMessage {
  ruleId: number;
  /** The version of the rule that rang; 0 where it is not kept. */
  versionId: number;
  leadId: string;
  recipientId: number;
  /** Workspace clock. */
  ringAt: number;
}

/** A notice that waits because of what would be taken back. */
export interface SetOffNotice {
  taskId: number;
  readerId: number;
  /** Null while it waits for its task. */
  leavesAt: number | null;
}

const WAITING = `('planned', 'held', 'folded')`;
/** Runs that one of some changes set off. */
const RUNS = 'SELECT ring_id FROM run WHERE set_off_by IN (SELECT value FROM json_each(@ids))';

/** What an undo does to what the engine has written down: what was set off goes, what waited before waits again. */
export class UndoingStore {
  readonly #stopRuns;
  readonly #withdraw;
  readonly #setOff;
  readonly #noticesAgain;
  readonly #runsAgain;
  readonly #note;
  readonly #until;
  readonly #left;
  readonly #leftSince;
  readonly #hasLeftSince;
  readonly #sweepRun;

  constructor(db: Db) {
    this.#stopRuns = db.prepare<[{ ids: string; at: number }]>(
      `UPDATE run SET state = 'stopped', outcome = 'undone', ended_at = @at, next_at = NULL
       WHERE set_off_by IN (SELECT value FROM json_each(@ids)) AND state IN ('running', 'asking')`
    );
    this.#withdraw = db.prepare<[{ ids: string; at: number }]>(
      `UPDATE notice SET state = 'withdrawn', reason = 'undone', ended_at = @at, waited = NULL
       WHERE state IN ${WAITING} AND (ring_id IN (${RUNS}) OR set_off_by IN (SELECT value FROM json_each(@ids)))`
    );
    this.#setOff = db.prepare<[{ ids: string }], SetOffNotice>(
      `SELECT g.subject_id AS taskId, coalesce(n.reader_id, n.recipient_id) AS readerId, n.leaves_at AS leavesAt
       FROM notice n JOIN ring g ON g.id = n.ring_id WHERE n.state IN ${WAITING}
       AND (n.ring_id IN (${RUNS}) OR n.set_off_by IN (SELECT value FROM json_each(@ids))) ORDER BY n.leaves_at, n.id`
    );
    const ofTasks = `(@taskIds IS NULL OR ring_id IN (SELECT g.id FROM ring g WHERE g.subject_kind = 'task'
      AND g.subject_id IN (SELECT value FROM json_each(@taskIds))))`;
    // Where another has come in its place meanwhile, that one waits.
    this.#noticesAgain = db.prepare<[AgainParameters & { stands: string }]>(
      `UPDATE OR IGNORE notice SET state = waited, reason = NULL, ended_at = NULL, waited = NULL
       WHERE waited IS NOT NULL AND ended_at >= @since AND (leaves_at IS NULL OR leaves_at > @now)
       AND reason NOT IN (SELECT value FROM json_each(@stands)) AND ${ofTasks}`
    );
    this.#runsAgain = db.prepare<[AgainParameters]>(
      `UPDATE run SET state = json_extract(stood, '$.state'), next_at = json_extract(stood, '$.nextAt'), outcome = NULL, ended_at = NULL,
       stood = NULL WHERE state = 'stopped' AND stood IS NOT NULL AND ended_at >= @since AND json_extract(stood, '$.nextAt') > @now AND ${ofTasks}`
    );
    this.#note = db.prepare<[string, number, number]>(
      `INSERT INTO not_made_up (kind, id, until_at) VALUES (?, ?, ?)
       ON CONFLICT DO UPDATE SET until_at = max(until_at, excluded.until_at)`
    );
    this.#until = db.prepare<[{ taskId: number; projectId: number; ruleId: number }], { at: number | null }>(
      `SELECT max(until_at) AS at FROM not_made_up WHERE (kind = 'task' AND id = @taskId) OR (kind = 'project' AND id = @projectId)
       OR (kind = 'rule' AND id = @ruleId) OR (kind = 'workspace' AND id = 0)`
    );
    this.#sweepRun = db.prepare<[number], { runId: number }>(
      'SELECT run_id AS runId FROM sweep_chunk WHERE change_id = ?'
    );
    const message = `m.id AS messageId, m.reader_id AS readerId, m.subject, m.leaves_at AS leavesAt, g.subject_id AS taskId, n.kind`;
    const fromMessage = `FROM notice n JOIN ring g ON g.id = n.ring_id JOIN message_notice mn ON mn.notice_id = n.id
       JOIN message m ON m.id = mn.message_id`;
    this.#leftSince = db.prepare<
      [{ taskIds: string; ruleIds: string; since: number; until: number }],
      LeftSince
    >(
      `SELECT ${message}, g.rule_id AS ruleId, g.lead_id AS leadId, coalesce(r.rule_version_id, 0) AS versionId, n.recipient_id AS recipientId,
       n.ring_at AS ringAt ${fromMessage} LEFT JOIN run r ON r.ring_id = g.id
       WHERE g.subject_kind = 'task' AND m.leaves_at BETWEEN @since AND @until AND n.state IN ('sending', 'sent', 'in doubt')
       AND (g.subject_id IN (SELECT value FROM json_each(@taskIds)) OR g.rule_id IN (SELECT value FROM json_each(@ruleIds)))
       ORDER BY m.leaves_at, m.id, n.id`
    );
    this.#hasLeftSince = db.prepare<[number, number]>(
      `SELECT 1 FROM message WHERE leaves_at BETWEEN ? AND ? LIMIT 1`
    );
    this.#left = db.prepare<[{ ids: string }], LeftMessage>(
      `SELECT ${message} ${fromMessage}
       WHERE (n.ring_id IN (${RUNS}) OR n.set_off_by IN (SELECT value FROM json_each(@ids)))
       AND n.state IN ('sending', 'sent', 'in doubt') ORDER BY m.leaves_at, m.id, n.id`
    );
  }

  /** What waits because of some changes, and would be withdrawn with them. */
  waitsBecauseOf(changeIds: readonly number[]): SetOffNotice[] {
    return this.#setOff.all({ ids: JSON.stringify(changeIds) });
  }

  /** Withdraws what some changes set off and what has not left: runs that wait and their notices, and what was made up for because of them. */
  withdraw(changeIds: readonly number[], at: number): void {
    const ids = JSON.stringify(changeIds);
    this.#withdraw.run({ ids, at });
    this.#stopRuns.run({ ids, at });
  }

  /** What was withdrawn since a change waits again, if its moment is ahead; whether it is still owed is asked when its task is planned anew. */
  waitAgain({ since, now, taskIds, stands }: WaitsAgain): void {
    const of = { since, now, taskIds: taskIds && JSON.stringify(taskIds) };
    this.#noticesAgain.run({ ...of, stands: JSON.stringify(stands) });
    this.#runsAgain.run(of);
  }

  /** From now on nothing that rang until an instant is made up for. */
  noteNotMadeUp(what: BroughtBack, until: number): void {
    this.#note.run(what.kind, what.id, until);
  }

  /** Until when nothing is made up for of a rule and a task; null where all is. */
  notMadeUpUntil(taskId: number, projectId: number | null, ruleId: number): number | null {
    return this.#until.get({ taskId, projectId: projectId ?? 0, ruleId })!.at;
  }

  /** The run of a sweep that a change is a chunk of; null for every other change. */
  sweepRunOf(changeId: number): number | null {
    return this.#sweepRun.get(changeId)?.runId ?? null;
  }

  /** Messages that some changes set off and that have left, a row for each task that they are about. */
  setOffAndLeft(changeIds: readonly number[]): LeftMessage[] {
    return this.#left.all({ ids: JSON.stringify(changeIds) });
  }

  /** Whether any message was to leave from one instant to another; workspace clock. */
  hasLeftSince(since: number, until: number): boolean {
    return this.#hasLeftSince.get(since, until) !== undefined;
  }

  /** Messages about some tasks, or by some rules, that left from one instant to another; workspace clock. */
  leftSince(
    taskIds: readonly number[],
    ruleIds: readonly number[],
    since: number,
    until: number
  ): LeftSince[] {
    const of = { taskIds: JSON.stringify(taskIds), ruleIds: JSON.stringify(ruleIds) };
    return this.#leftSince.all({ ...of, since, until });
  }
}

interface AgainParameters {
  since: number;
  now: number;
  taskIds: string | null;
}
