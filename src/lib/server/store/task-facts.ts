import { WideRows } from '../db/wide-rows.ts';
import type { Silence, TaskFacts } from '../../core/forecast/facts/facts.ts';
import { taskReminder, type ReminderTiming } from '../../core/forecast/facts/reminders.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Unseen } from '../../core/task/model.ts';
import type { Db } from '../db/open.ts';
import { FROM_TASK, stored, toMoment, type TaskRow } from './task-row.ts';

type FactsRow = TaskRow & { aside: Unseen | null; register: number; acknowledged: number };

interface OwnerRow {
  taskId: number;
  personId: number;
}

interface SilenceRow extends Silence {
  taskId: number;
}

/** One step on the way from a task that a rule made to the one that people made. */
interface MadeRow {
  taskId: number;
  ruleId: number;
  /** Of what it was made. */
  of: string | null;
}

interface ReminderRow {
  id: number;
  taskId: number;
  personId: number | null;
  timing: string;
}

const FACT_COLUMNS = `t.id, t.name, t.project_id, t.owner_id, t.due_date, t.due_time, t.due_zone,
  t.start_date, t.start_time, t.start_zone, t.remind_date, t.remind_time, t.remind_zone, t.priority, t.round, t.private, s.phase,
  CASE WHEN t.set_aside IS NOT NULL THEN t.set_aside WHEN coalesce(p.state, 'open') <> 'open' THEN 'called off' END AS aside, coalesce(p.register, 0) AS register,
  EXISTS (SELECT 1 FROM promise WHERE promise.task_id = t.id AND promise.state IN ('open', 'over')) AS acknowledged`;
const FROM_FACTS = `${FROM_TASK} LEFT JOIN project p ON p.id = t.project_id`;

/** What the core computes from, of one choice of tasks: five statements, each over the whole choice. */
export class FactsQuery<P extends unknown[]> {
  readonly #facts;
  readonly #others;
  readonly #reminders;
  readonly #silences;
  readonly #made;

  /** @param where the choice: the condition on a column that holds the id of a task, with the parameters `P` */
  constructor(db: Db, where: (id: string) => string) {
    this.#facts = new WideRows<P, FactsRow>(
      db,
      `SELECT ${FACT_COLUMNS} ${FROM_FACTS} WHERE ${where('t.id')} ORDER BY t.id`
    );
    this.#others = db.prepare<P, OwnerRow>(
      `SELECT task_id AS taskId, person_id AS personId FROM co_owner WHERE ${where('task_id')} ORDER BY task_id, position, id`
    );
    this.#reminders = db.prepare<P, ReminderRow>(
      `SELECT id, task_id AS taskId, person_id AS personId, timing FROM reminder WHERE ${where('task_id')} ORDER BY task_id, id`
    );
    this.#silences = db.prepare<P, SilenceRow>(
      `SELECT task_id AS taskId, person_id AS personId, from_at AS "from", until_at AS until FROM no_reminder
       WHERE ${where('task_id')} ORDER BY task_id, id`
    );
    this.#made = db.prepare<P, MadeRow>(
      `WITH RECURSIVE line (task_id, rule_id, of_id, depth) AS (
         SELECT made_task_id, rule_id, task_id, 1 FROM rule_once WHERE made_task_id IS NOT NULL AND ${where('made_task_id')}
         UNION ALL
         SELECT line.task_id, o.rule_id, o.task_id, depth + 1 FROM line JOIN rule_once o ON o.made_task_id = line.of_id
         WHERE depth < 100
       )
       SELECT task_id AS taskId, rule_id AS ruleId, name AS "of" FROM line LEFT JOIN task ON task.id = of_id ORDER BY task_id, depth`
    );
  }

  read(...chosen: P): TaskFacts[] {
    const ofTask = <T extends { taskId: number }>(rows: readonly T[]) =>
      groupBy(rows, ({ taskId }) => taskId);
    const others = ofTask(this.#others.all(...chosen));
    const reminders = ofTask(this.#reminders.all(...chosen));
    const silences = ofTask(this.#silences.all(...chosen));
    const made = ofTask(this.#made.all(...chosen));
    return this.#facts
      .all(...chosen)
      .map((row) =>
        toFacts(
          row,
          others.get(row.id) ?? NONE,
          reminders.get(row.id) ?? NONE,
          silences.get(row.id) ?? NONE,
          made.get(row.id) ?? NONE
        )
      );
  }
}

function toFacts(
  row: FactsRow,
  others: readonly { personId: number }[],
  reminders: readonly ReminderRow[],
  silences: readonly SilenceRow[],
  made: readonly MadeRow[]
): TaskFacts {
  const due = stored(row.due_date, row.due_time, row.due_zone);
  const start = stored(row.start_date, row.start_time, row.start_zone);
  const remindOn = stored(row.remind_date, row.remind_time, row.remind_zone);
  return {
    id: row.id,
    name: row.name,
    projectId: row.project_id,
    ownerId: row.owner_id,
    otherOwnerIds: others.length === 0 ? NONE : others.map(({ personId }) => personId),
    due: due && toMoment(due),
    start: start && toMoment(start),
    remindOn: remindOn && toMoment(remindOn),
    phase: row.phase,
    priority: row.priority,
    round: row.round,
    private: row.private === 1,
    aside: row.aside,
    register: row.register === 1,
    acknowledged: row.acknowledged === 1,
    made:
      made.length === 0
        ? null
        : {
            ruleIds: made.map(({ ruleId }) => ruleId),
            origin: made.findLast(({ of }) => of !== null)?.of ?? row.name
          },
    silences:
      silences.length === 0 ? NONE : silences.map(({ personId, from, until }) => ({ personId, from, until })),
    reminders:
      reminders.length === 0
        ? NONE
        : reminders.map(({ id, personId, timing }, order) =>
            taskReminder(id, personId, JSON.parse(timing) as ReminderTiming, order)
          )
  };
}

const NONE: readonly never[] = [];
