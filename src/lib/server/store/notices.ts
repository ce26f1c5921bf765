import type { WhyStep } from '../../core/ring/why.ts';
import type { NoticeKind } from '../../core/notice/kinds.ts';
import type { Db } from '../db/open.ts';

export type NoticeState =
  'planned' | 'held' | 'folded' | 'sending' | 'sent' | 'failed' | 'in doubt' | 'unrung' | 'withdrawn';

export interface NoticeRecord {
  id: number;
  ringId: number;
  ruleId: number;
  leadId: string;
  taskId: number;
  anchorValue: string;
  round: number;
  /** Which repeat of the lead. */
  ordinal: number;
  /** Id of the Tell. */
  stepId: string;
  kind: NoticeKind;
  /** Urgent or a must. */
  forced: boolean;
  copied: 'to' | 'cc' | 'bcc';
  /** By which recipients of the Tell it came to whoever is told, where steps told them; empty where the plan did. */
  named: readonly string[];
  recipientId: number;
  /** Who reads it: the recipient, or whoever is asked while they are on leave. */
  readerId: number;
  snooze: number;
  state: NoticeState;
  reason: string | null;
  ringAt: number;
  leavesAt: number | null;
  originDay: number;
  lateBell: boolean;
  why: WhyStep[];
}

export interface NewNotice {
  ringId: number;
  stepId: string;
  kind: NoticeKind;
  forced: boolean;
  copied: 'to' | 'cc' | 'bcc';
  named?: readonly string[];
  snooze?: number;
  recipientId: number;
  readerId: number;
  state: NoticeState;
  reason: string | null;
  ringAt: number;
  leavesAt: number | null;
  originDay: number;
  lateBell: boolean;
  why: WhyStep[];
  endedAt: number | null;
  /** The change that made up for it, or gave it to somebody in another’s place. */
  setOffBy?: number | null;
}

export interface RuleCounts {
  sent: number;
  /** When the last one left; null when none has. */
  last: number | null;
  failed: number;
  /** Of how many tasks, and to how many people, it has told. */
  tasks: number;
  people: number;
}

/** By what a ring is known. */
export interface RingKey {
  ruleId: number;
  leadId: string;
  taskId: number;
  anchorValue: string;
  round: number;
  ordinal: number;
}

type NoticeRow = Omit<NoticeRecord, 'lateBell' | 'why' | 'forced' | 'named'> & {
  lateBell: number;
  why: string;
  named: string;
  forced: number;
};

const OF_KEY = `g.rule_id = @ruleId AND g.lead_id = @leadId AND g.ordinal = @ordinal AND g.subject_kind = 'task'
  AND g.subject_id = @taskId AND g.anchor_value = @anchorValue AND g.round = @round`;
const SELECT = `SELECT n.id, g.id AS ringId, g.rule_id AS ruleId, g.lead_id AS leadId, g.subject_id AS taskId, g.anchor_value AS anchorValue,
  g.round, g.ordinal, n.step_id AS stepId, n.kind, n.forced, n.copied, n.named, n.recipient_id AS recipientId,
  coalesce(n.reader_id, n.recipient_id) AS readerId, n.snooze, n.state, n.reason, n.ring_at AS ringAt, n.leaves_at AS leavesAt,
  n.origin_day AS originDay, n.late_bell AS lateBell, n.why
  FROM notice n JOIN ring g ON g.id = n.ring_id`;
const WAITING = `n.state IN ('planned', 'held', 'folded')`;
/** What was said by another ring of the same moment is said, and does not ring again. */
export const OCCUPIES = `(n.state NOT IN ('unrung', 'withdrawn') OR n.state = 'unrung' AND n.reason = 'same moment')`;

/** Rings, their runs and their notices. */
export class NoticeStore {
  readonly #addRing;
  readonly #ring;
  readonly #add;
  readonly #byId;
  readonly #nextLeaving;
  readonly #leaving;
  readonly #waiting;
  readonly #foldedOf;
  readonly #ofRule;
  readonly #rungBetween;
  readonly #waitingOf;
  readonly #waitingAmong;
  readonly #end;
  readonly #endForNow;
  readonly #move;
  readonly #occupied;
  readonly #ofTask;
  readonly #ended;
  readonly #countOfRule;
  readonly #heard;
  readonly #hasRun;
  readonly #byRing;
  readonly #act;
  readonly #anySent;
  readonly #roundOf;
  readonly #ringsOf;
  readonly #tasksOfRule;

  constructor(db: Db) {
    this.#addRing = db.prepare<[RingKey & { ringAt: number; kind: string }]>(
      `INSERT INTO ring (rule_id, lead_id, ordinal, subject_kind, subject_id, anchor_value, round, ring_at)
       VALUES (@ruleId, @leadId, @ordinal, @kind, @taskId, @anchorValue, @round, @ringAt) ON CONFLICT DO NOTHING`
    );
    this.#ring = db.prepare<[RingKey & { kind: string }], { id: number }>(
      `SELECT id FROM ring WHERE rule_id = @ruleId AND lead_id = @leadId AND ordinal = @ordinal AND subject_kind = @kind
       AND subject_id = @taskId AND anchor_value = @anchorValue AND round = @round`
    );
    this.#add = db.prepare(
      `INSERT INTO notice (ring_id, step_id, kind, forced, copied, named, snooze, recipient_id, reader_id, state, reason, ring_at, leaves_at,
         origin_day, late_bell, why, ended_at, set_off_by)
       VALUES (@ringId, @stepId, @kind, @forced, @copied, @named, @snooze, @recipientId, nullif(@readerId, @recipientId), @state, @reason,
         @ringAt, @leavesAt, @originDay, @lateBell, @why, @endedAt, @setOffBy)`
    );
    this.#byId = db.prepare<[number], NoticeRow>(`${SELECT} WHERE n.id = ?`);
    this.#nextLeaving = db.prepare<[], { at: number | null }>(
      `SELECT min(leaves_at) AS at FROM notice n WHERE ${WAITING} AND n.rush_id IS NULL`
    );
    this.#leaving = db.prepare<[number], NoticeRow>(
      `${SELECT} JOIN rule r ON r.id = g.rule_id WHERE ${WAITING} AND n.rush_id IS NULL AND n.leaves_at <= ?
       ORDER BY n.leaves_at, r.position, g.rule_id, n.id`
    );
    this.#rungBetween = db.prepare<[number, number], NoticeRow>(
      `${SELECT} WHERE n.ring_at > ? AND n.ring_at <= ? ORDER BY n.ring_at, n.id`
    );
    this.#ofRule = db.prepare<[number], NoticeRow>(`${SELECT} WHERE g.rule_id = ? ORDER BY n.ring_at, n.id`);
    this.#foldedOf = foldedOf(db);
    this.#waiting = db.prepare<[], NoticeRow>(`${SELECT} WHERE ${WAITING} ORDER BY n.leaves_at, n.id`);
    this.#waitingOf = db.prepare<[number], NoticeRow>(
      `${SELECT} WHERE ${WAITING} AND g.subject_kind = 'task' AND g.subject_id = ?`
    );
    this.#waitingAmong = db.prepare<[string], NoticeRow>(
      `${SELECT} WHERE ${WAITING} AND g.subject_kind = 'task' AND g.subject_id IN (SELECT value FROM json_each(?)) ORDER BY n.id`
    );
    this.#end = db.prepare<[NoticeState, string | null, number | null, string, number]>(
      'UPDATE notice SET state = ?, reason = ?, ended_at = ?, why = ? WHERE id = ?'
    );
    this.#endForNow = db.prepare<['withdrawn' | 'unrung', string, number, number]>(
      'UPDATE notice SET waited = state, state = ?, reason = ?, ended_at = ? WHERE id = ?'
    );
    this.#move = db.prepare<[number | null, number, string, number, string, number]>(
      'UPDATE notice SET leaves_at = ?, reader_id = nullif(?, recipient_id), state = ?, late_bell = ?, why = ? WHERE id = ?'
    );
    this.#occupied = db.prepare<[RingKey & { recipientId: number; stepId: string }], { id: number }>(
      `SELECT n.id FROM notice n JOIN ring g ON g.id = n.ring_id WHERE ${OF_KEY} AND n.recipient_id = @recipientId
       AND n.step_id = @stepId AND n.snooze = 0 AND ${OCCUPIES}`
    );
    this.#hasRun = db.prepare<[RingKey], { id: number }>(
      `SELECT u.id FROM run u JOIN ring g ON g.id = u.ring_id WHERE ${OF_KEY} AND (u.step > 0 OR u.state <> 'running')`
    );
    this.#byRing = db.prepare<[number], NoticeRow>(`${SELECT} WHERE n.ring_id = ? ORDER BY n.id`);
    this.#anySent = db.prepare<[], { id: number }>(`SELECT id FROM notice WHERE state = 'sent' LIMIT 1`);
    this.#roundOf = db.prepare<[number], { round: number }>('SELECT round FROM ring WHERE id = ?');
    this.#tasksOfRule = db.prepare<[number], { taskId: number }>(
      `SELECT DISTINCT subject_id AS taskId FROM ring WHERE rule_id = ? AND subject_kind = 'task'`
    );
    this.#ringsOf = db.prepare<[number], RingKey>(
      `SELECT rule_id AS ruleId, lead_id AS leadId, subject_id AS taskId, anchor_value AS anchorValue, round, ordinal
       FROM ring WHERE subject_kind = 'task' AND subject_id = ?`
    );
    this.#act = db.prepare<[number | null, number]>('UPDATE notice SET acted_at = ? WHERE id = ?');
    this.#ofTask = db.prepare<[number], NoticeRow>(
      `${SELECT} WHERE g.subject_kind = 'task' AND g.subject_id = ? ORDER BY n.ring_at, n.id`
    );
    this.#ended = db.prepare<[number, number], { state: NoticeState; reason: string | null; count: number }>(
      `SELECT state, reason, count(*) AS count FROM notice WHERE ended_at > ? AND ended_at <= ? GROUP BY state, reason`
    );
    this.#heard = db.prepare<[], { taskId: number }>(
      `SELECT DISTINCT g.subject_id AS taskId FROM ring g JOIN notice n ON n.ring_id = g.id JOIN task t ON t.id = g.subject_id
       WHERE g.subject_kind = 'task' AND g.round = t.round AND ${OCCUPIES}`
    );
    this.#countOfRule = db.prepare<[number], RuleCounts>(
      `SELECT count(*) FILTER (WHERE n.state = 'sent') AS sent, max(n.leaves_at) FILTER (WHERE n.state = 'sent') AS last,
       count(*) FILTER (WHERE n.state = 'failed') AS failed,
       count(DISTINCT g.subject_id) FILTER (WHERE n.state = 'sent') AS tasks,
       count(DISTINCT n.recipient_id) FILTER (WHERE n.state = 'sent') AS people
       FROM notice n JOIN ring g ON g.id = n.ring_id WHERE g.rule_id = ?`
    );
  }

  /** Whether a notice has ever left. */
  anySent(): boolean {
    return this.#anySent.get() !== undefined;
  }

  /** Tasks for which a notice has left, or waits to leave, in their present round. */
  tasksHeard(): Set<number> {
    return new Set(this.#heard.all().map(({ taskId }) => taskId));
  }

  /** The ring of a key, made when it is not there yet. */
  ring(key: RingKey, ringAt: number, kind: 'task' | 'none' = 'task'): number {
    this.#addRing.run({ ...key, ringAt, kind });
    return this.#ring.get({ ...key, kind })!.id;
  }

  /** @returns the id */
  add(notice: NewNotice): number {
    const row = {
      snooze: 0,
      setOffBy: null,
      ...notice,
      forced: notice.forced ? 1 : 0,
      lateBell: notice.lateBell ? 1 : 0,
      named: JSON.stringify(notice.named ?? []),
      why: JSON.stringify(notice.why)
    };
    return Number(this.#add.run(row).lastInsertRowid);
  }

  byId(id: number): NoticeRecord | null {
    const row = this.#byId.get(id);
    return row ? toNotice(row) : null;
  }

  /** When the next waiting notice leaves; null when none waits. */
  nextLeaving(): number | null {
    return this.#nextLeaving.get()!.at;
  }

  /** Waiting notices that leave at or before an instant. */
  leaving(until: number): NoticeRecord[] {
    return this.#leaving.all(until).map(toNotice);
  }

  /** Those that somebody’s next gathered message at an instant is to carry. */
  foldedOf(readerId: number, at: number): NoticeRecord[] {
    return this.#foldedOf.all({ readerId, at }).map(toNotice);
  }

  waiting(): NoticeRecord[] {
    return this.#waiting.all().map(toNotice);
  }

  waitingOf(taskId: number): NoticeRecord[] {
    return this.#waitingOf.all(taskId).map(toNotice);
  }

  waitingAmong(taskIds: readonly number[]): NoticeRecord[] {
    return this.#waitingAmong.all(JSON.stringify(taskIds)).map(toNotice);
  }

  ofTask(taskId: number): NoticeRecord[] {
    return this.#ofTask.all(taskId).map(toNotice);
  }

  end(
    notice: NoticeRecord,
    state: NoticeState,
    reason: string | null,
    at: number | null,
    why: WhyStep[] = notice.why
  ): void {
    this.#end.run(state, reason, at, JSON.stringify(why), notice.id);
  }

  /** Ends a notice that waits because something has changed: where that is taken back, it waits again. */
  endForNow({ id }: NoticeRecord, state: 'withdrawn' | 'unrung', reason: string, at: number): void {
    this.#endForNow.run(state, reason, at, id);
  }

  /** A waiting notice leaves at another time, or is read by somebody else, than was thought when it rang; at null it waits without one. */
  move(
    id: number,
    to: Pick<NoticeRecord, 'leavesAt' | 'readerId' | 'lateBell' | 'why'> & {
      state: 'planned' | 'held' | 'folded';
    }
  ): void {
    this.#move.run(to.leavesAt, to.readerId, to.state, to.lateBell ? 1 : 0, JSON.stringify(to.why), id);
  }

  /** Whether a notice of this key has left, is on its way, or was said by another of its moment. */
  occupied(key: RingKey & { recipientId: number; stepId: string }): boolean {
    return this.#occupied.get(key) !== undefined;
  }

  /** Whether the steps of a ring have been gone through. */
  hasRun(key: RingKey): boolean {
    return this.#hasRun.get(key) !== undefined;
  }

  /** Whether something has rung by this key. */
  hasRing(key: RingKey): boolean {
    return this.#ring.get({ ...key, kind: 'task' }) !== undefined;
  }

  /** Tasks for which a rule has rung at all. */
  tasksOfRule(ruleId: number): Set<number> {
    return new Set(this.#tasksOfRule.all(ruleId).map(({ taskId }) => taskId));
  }

  /** The rings of a task, of all its rounds. */
  ringsOf(taskId: number): RingKey[] {
    return this.#ringsOf.all(taskId);
  }

  /** Whoever got it has acted on it: a mark on what was sent, no second end. */
  act(id: number, at: number): void {
    this.#act.run(at, id);
  }

  /** What was acted on is as if it had not been. */
  unact(id: number): void {
    this.#act.run(null, id);
  }

  /** What a notice comes again as that somebody put off, while it waits; null where it does not. */
  snoozeOf({ ringId, stepId, snooze }: NoticeRecord, personId: number): NoticeRecord | null {
    const again = this.ofRing(ringId).find(
      (one) =>
        one.stepId === stepId &&
        one.recipientId === personId &&
        one.snooze === snooze + 1 &&
        (one.state === 'planned' || one.state === 'held' || one.state === 'folded')
    );
    return again ?? null;
  }

  /** Notices of one ring. */
  ofRing(ringId: number): NoticeRecord[] {
    return this.#byRing.all(ringId).map(toNotice);
  }

  /** In which round of its task it rang. */
  roundOfRing(ringId: number): number {
    return this.#roundOf.get(ringId)?.round ?? 0;
  }

  /** How many notices ended in `(from, until]`, by state and reason. */
  ended(from: number, until: number): { state: NoticeState; reason: string | null; count: number }[] {
    return this.#ended.all(from, until);
  }

  /** Notices whose ring instant lies in `(from, until]`, workspace clock. */
  rungBetween(from: number, until: number): NoticeRecord[] {
    return this.#rungBetween.all(from, until).map(toNotice);
  }

  /** Every notice of a rule, in the order of their rings. */
  ofRule(ruleId: number): NoticeRecord[] {
    return this.#ofRule.all(ruleId).map(toNotice);
  }

  /** What has become of the notices of a rule. */
  countsOfRule(ruleId: number): RuleCounts {
    return this.#countOfRule.get(ruleId)!;
  }
}

/** What was put off until a moment, of one reader. */
function foldedOf(db: Db) {
  return db.prepare<[{ readerId: number; at: number }], NoticeRow>(
    `${SELECT} WHERE n.state = 'folded' AND n.rush_id IS NULL AND n.leaves_at = @at
     AND coalesce(n.reader_id, n.recipient_id) = @readerId ORDER BY n.id`
  );
}

function toNotice(row: NoticeRow): NoticeRecord {
  return {
    ...row,
    forced: row.forced === 1,
    named: JSON.parse(row.named) as string[],
    lateBell: row.lateBell === 1,
    why: JSON.parse(row.why) as WhyStep[]
  };
}
