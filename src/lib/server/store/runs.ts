import type { OwnChange } from '../../core/forecast/decide/own-changes.ts';
import type { Db } from '../db/open.ts';

/** What the ring of a schedule, or of a press over a Watch, came to, stage by stage. */
export interface Stages {
  /** Tasks in the rule's scope that were looked at. */
  looked: number;
  found: number;
  /** What the forecast had said, where it was asked before. */
  expected: number | null;
  /** Of those that were looked at and not found: which test kept how many out, the most first. */
  excluded: { test: string; count: number }[];
}

export interface RunRecord {
  id: number;
  ringId: number;
  parentId: number | null;
  ruleId: number;
  versionId: number;
  leadId: string;
  ordinal: number;
  anchorValue: string;
  ringAt: number;
  /** Null for the ring of a schedule itself. */
  taskId: number | null;
  step: number;
  nextAt: number | null;
  state: 'running' | 'asking' | 'ended' | 'stopped';
  outcome: string | null;
  actorId: number | null;
  /** The change within which it began, or within which began whatever set it off; null where time alone did. */
  setOffBy: number | null;
  regardless: boolean;
  own: OwnChange[];
  stages: Stages | null;
  startedAt: number;
  endedAt: number | null;
}

export interface RunStepRecord {
  id: number;
  runId: number;
  stepId: string;
  kind: string;
  name: string;
  at: number;
  input: Record<string, unknown>;
  output: Record<string, unknown>;
}

/** What a run began with. */
export interface Begun {
  parentId?: number | null;
  actorId?: number | null;
  setOffBy?: number | null;
}

type RunRow = Omit<RunRecord, 'regardless' | 'own' | 'stages'> & {
  regardless: number;
  own: string;
  stages: string | null;
};
type StepRow = Omit<RunStepRecord, 'input' | 'output'> & { input: string; output: string };

const RUN = `SELECT u.id, u.ring_id AS ringId, u.parent_id AS parentId, u.rule_id AS ruleId, u.rule_version_id AS versionId,
  g.lead_id AS leadId, g.ordinal, g.anchor_value AS anchorValue, g.ring_at AS ringAt,
  CASE WHEN g.subject_kind = 'task' THEN g.subject_id END AS taskId, u.step, u.next_at AS nextAt, u.state, u.outcome,
  u.actor_id AS actorId, u.set_off_by AS setOffBy, u.regardless, u.own, u.stages, u.started_at AS startedAt, u.ended_at AS endedAt
  FROM run u JOIN ring g ON g.id = u.ring_id`;

/** Runs of rules, step by step, and the questions that they ask. */
export class RunStore {
  readonly #byId;
  readonly #ofRing;
  readonly #begin;
  readonly #stand;
  readonly #end;
  readonly #endForNow;
  readonly #stages;
  readonly #next;
  readonly #due;
  readonly #waiting;
  readonly #waitingOf;
  readonly #ofRule;
  readonly #children;
  readonly #ofTask;
  readonly #addStep;
  readonly #steps;
  readonly #once;
  readonly #onceOfRule;
  readonly #followUpsOfRule;
  readonly #openFollowUps;
  readonly #used;
  readonly #moved;

  constructor(db: Db) {
    this.#byId = db.prepare<[number], RunRow>(`${RUN} WHERE u.id = ?`);
    this.#ofRing = db.prepare<[number], RunRow>(`${RUN} WHERE u.ring_id = ?`);
    this.#begin = db.prepare<[number, number | null, number, number, number | null, number | null, number]>(
      `INSERT INTO run (ring_id, parent_id, rule_id, rule_version_id, actor_id, set_off_by, state, started_at)
       VALUES (?, ?, ?, ?, ?, ?, 'running', ?) ON CONFLICT (ring_id) DO NOTHING`
    );
    this.#stand = db.prepare<[number, number, string, number, string, number]>(
      'UPDATE run SET step = ?, next_at = ?, state = ?, regardless = ?, own = ? WHERE id = ?'
    );
    this.#end = db.prepare<[string, string | null, number, string, number]>(
      'UPDATE run SET state = ?, outcome = ?, ended_at = ?, own = ?, next_at = NULL WHERE id = ?'
    );
    this.#endForNow = db.prepare<[string, number, number]>(
      `UPDATE run SET stood = json_object('state', state, 'nextAt', next_at), state = 'stopped', outcome = ?, ended_at = ?, next_at = NULL WHERE id = ?`
    );
    this.#stages = db.prepare<[string, number]>('UPDATE run SET stages = ? WHERE id = ?');
    this.#next = db.prepare<[], { at: number | null }>(
      `SELECT min(next_at) AS at FROM run WHERE state IN ('running', 'asking')`
    );
    this.#due = db.prepare<[number, number], RunRow>(
      `${RUN} JOIN rule r ON r.id = u.rule_id WHERE u.state IN ('running', 'asking') AND u.next_at <= ?
       ORDER BY u.next_at, r.position, u.rule_id, u.id LIMIT ?`
    );
    this.#waiting = db.prepare<[], RunRow>(
      `${RUN} WHERE u.state IN ('running', 'asking') AND u.next_at IS NOT NULL`
    );
    this.#waitingOf = db.prepare<[number], RunRow>(
      `${RUN} WHERE u.state IN ('running', 'asking') AND g.subject_kind = 'task' AND g.subject_id = ?`
    );
    this.#ofRule = db.prepare<[number, number], RunRow>(
      `${RUN} WHERE u.rule_id = ? AND u.parent_id IS NULL ORDER BY u.started_at DESC, u.id DESC LIMIT ?`
    );
    this.#children = db.prepare<[number], RunRow>(`${RUN} WHERE u.parent_id = ? ORDER BY u.id`);
    this.#ofTask = db.prepare<[number, number], RunRow>(
      `${RUN} WHERE g.subject_kind = 'task' AND g.subject_id = ? ORDER BY u.started_at DESC, u.id DESC LIMIT ?`
    );
    this.#addStep = db.prepare<[number, string, string, string, number, string, string]>(
      'INSERT INTO run_step (run_id, step_id, kind, name, at, input, output) VALUES (?, ?, ?, ?, ?, ?, ?)'
    );
    this.#steps = db.prepare<[number], StepRow>(
      `SELECT id, run_id AS runId, step_id AS stepId, kind, name, at, input, output FROM run_step WHERE run_id = ? ORDER BY id`
    );
    this.#once = db.prepare<
      [{ ruleId: number; stepId: string; taskId: number; round: number; value: string }],
      { id: number; madeTaskId: number | null }
    >(
      `SELECT id, made_task_id AS madeTaskId FROM rule_once WHERE rule_id = @ruleId AND step_id = @stepId
       AND ((task_id = @taskId AND round = @round AND coalesce(value, @value) = @value) OR made_task_id = @taskId)`
    );
    this.#onceOfRule = db.prepare<
      [{ ruleId: number }],
      { stepId: string; taskId: number; value: string | null }
    >(
      `SELECT o.step_id AS stepId, o.task_id AS taskId, o.value FROM rule_once o JOIN task t ON t.id = o.task_id AND t.round = o.round
       WHERE o.rule_id = @ruleId
       UNION SELECT step_id, made_task_id, NULL FROM rule_once WHERE rule_id = @ruleId AND made_task_id IS NOT NULL`
    );
    const followUps = `SELECT o.task_id AS taskId, o.made_task_id AS madeId FROM rule_once o JOIN task t ON t.id = o.made_task_id
       JOIN status s ON s.id = t.status_id
       WHERE o.rule_id = @ruleId AND o.step_id GLOB '*/follow-up' AND s.phase NOT IN ('finished', 'closed')
       AND coalesce(t.set_aside, '') NOT IN ('archived', 'binned')`;
    this.#followUpsOfRule = db.prepare<[{ ruleId: number }], { taskId: number; madeId: number }>(followUps);
    this.#openFollowUps = db.prepare<[{ ruleId: number; taskId: number }], { madeId: number }>(
      `${followUps} AND o.task_id = @taskId`
    );
    this.#moved = db.prepare<[number, number, number, string], { count: number }>(
      `SELECT count(*) AS count FROM run u JOIN ring g ON g.id = u.ring_id, json_each(u.own) c
       WHERE g.rule_id = ? AND g.subject_kind = 'task' AND g.subject_id = ? AND g.round = ?
       AND json_type(c.value, '$.after.' || ?) IS NOT NULL`
    );
    this.#used = db.prepare<[number, number, number], { runs: number; notices: number }>(
      `SELECT count(DISTINCT u.id) AS runs, count(n.id) FILTER (WHERE n.state IN ('sent', 'sending', 'in doubt')) AS notices
       FROM run u LEFT JOIN notice n ON n.ring_id = u.ring_id WHERE u.rule_id = ? AND u.started_at >= ? AND u.started_at < ?`
    );
  }

  byId(id: number): RunRecord | null {
    const row = this.#byId.get(id);
    return row ? toRun(row) : null;
  }

  ofRing(ringId: number): RunRecord | null {
    const row = this.#ofRing.get(ringId);
    return row ? toRun(row) : null;
  }

  /** The run of a ring, begun when there is none yet. */
  begin(
    ringId: number,
    ruleId: number,
    versionId: number,
    at: number,
    { parentId = null, actorId = null, setOffBy = null }: Begun = {}
  ): RunRecord {
    this.#begin.run(ringId, parentId, ruleId, versionId, actorId, setOffBy, at);
    return this.ofRing(ringId)!;
  }

  /** Where a run stands until it goes on. */
  stand(
    id: number,
    to: {
      step: number;
      nextAt: number;
      state: 'running' | 'asking';
      regardless: boolean;
      own: readonly OwnChange[];
    }
  ): void {
    this.#stand.run(to.step, to.nextAt, to.state, to.regardless ? 1 : 0, JSON.stringify(to.own), id);
  }

  end(
    id: number,
    state: 'ended' | 'stopped',
    outcome: string | null,
    at: number,
    own: readonly OwnChange[] = []
  ): void {
    this.#end.run(state, outcome, at, JSON.stringify(own), id);
  }

  /** Ends a run that waits because something has changed: where that is taken back, it waits again. */
  endForNow(id: number, outcome: string, at: number): void {
    this.#endForNow.run(outcome, at, id);
  }

  setStages(id: number, stages: Stages): void {
    this.#stages.run(JSON.stringify(stages), id);
  }

  /** When the next run goes on; null when none waits. */
  nextAt(): number | null {
    return this.#next.get()!.at;
  }

  due(until: number, limit: number): RunRecord[] {
    return this.#due.all(until, limit).map(toRun);
  }

  /** All whose wait is over by then. */
  dueBy(until: number): RunRecord[] {
    return this.#due.all(until, -1).map(toRun);
  }

  waiting(): RunRecord[] {
    return this.#waiting.all().map(toRun);
  }

  waitingOf(taskId: number): RunRecord[] {
    return this.#waitingOf.all(taskId).map(toRun);
  }

  /** The newest runs of a rule; those that a schedule's ring found stand under it. */
  ofRule(ruleId: number, limit: number): RunRecord[] {
    return this.#ofRule.all(ruleId, limit).map(toRun);
  }

  childrenOf(id: number): RunRecord[] {
    return this.#children.all(id).map(toRun);
  }

  ofTask(taskId: number, limit: number): RunRecord[] {
    return this.#ofTask.all(taskId, limit).map(toRun);
  }

  note(runId: number, step: Omit<RunStepRecord, 'id' | 'runId'>): void {
    const { stepId, kind, name, at, input, output } = step;
    this.#addStep.run(runId, stepId, kind, name, at, JSON.stringify(input), JSON.stringify(output));
  }

  stepsOf(runId: number): RunStepRecord[] {
    return this.#steps.all(runId).map((row) => ({
      ...row,
      input: JSON.parse(row.input) as Record<string, unknown>,
      output: JSON.parse(row.output) as Record<string, unknown>
    }));
  }

  /** The mark that a step has done for a task, its round and a value what is done once, or has made that task itself; null when it has not. */
  once(
    ruleId: number,
    stepId: string,
    taskId: number,
    round: number,
    value: string
  ): { id: number; madeTaskId: number | null } | null {
    return this.#once.get({ ruleId, stepId, taskId, round, value }) ?? null;
  }

  /** What the steps of a rule have done that they do once, in the present round of each task, with the tasks that they made. */
  onceOfRule(ruleId: number): [step: string, taskId: number, value: string | null][] {
    return this.#onceOfRule.all({ ruleId }).map(({ stepId, taskId, value }) => [stepId, taskId, value]);
  }

  /** Follow-ups of a rule that are open, with the tasks that they follow. */
  followUpsOfRule(ruleId: number): [taskId: number, madeId: number][] {
    return this.#followUpsOfRule.all({ ruleId }).map(({ taskId, madeId }) => [taskId, madeId]);
  }

  /** Follow-ups of a task by a rule that are open. */
  openFollowUps(ruleId: number, taskId: number): number[] {
    return this.#openFollowUps.all({ ruleId, taskId }).map(({ madeId }) => madeId);
  }

  /** How often runs of a rule have moved a date of a task in its round. */
  moved(ruleId: number, taskId: number, round: number, date: 'due' | 'start'): number {
    return this.#moved.get(ruleId, taskId, round, date)!.count;
  }

  /** Runs of a rule that began from one instant until before another, and the notices that they sent; workspace clock. */
  used(ruleId: number, from: number, until: number): { runs: number; notices: number } {
    return this.#used.get(ruleId, from, until)!;
  }
}

function toRun({ regardless, own, stages, ...row }: RunRow): RunRecord {
  return {
    ...row,
    regardless: regardless === 1,
    own: JSON.parse(own) as OwnChange[],
    stages: stages === null ? null : (JSON.parse(stages) as Stages)
  };
}
