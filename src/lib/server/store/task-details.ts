import { isOpen, type Phase, type FieldValue, type StoredRhythm } from '../../core/task/model.ts';
import type { LadderPause } from '../../core/ladder/pauses.ts';
import type { Moment } from '../../core/time/instant.ts';
import type { DigestDetails } from '../../core/digest/contents.ts';
import { NO_DETAILS, type TaskDetails } from '../../core/task/details.ts';
import { rhythmDays } from '../../core/recurrence/rhythm-days.ts';
import { parseDay } from '../../core/time/day.ts';
import type { Db } from '../db/open.ts';

interface DetailRow {
  id: number;
  description: string;
  statusId: number;
  sectionId: number | null;
  parentId: number | null;
  createdAt: number;
  createdBy: number | null;
  assignedAt: number;
  dueSince: number | null;
  touchedAt: number;
  finishedAt: number | null;
  reviewDate: string | null;
  asideAt: number | null;
  percent: number | null;
  keep: number;
  logTime: number;
  rhythm: string | null;
  slips: number;
  openSubtasks: number;
  minutesLogged: number;
  placed: number;
  ownerLookedAt: number | null;
}

type DigestRow = [
  id: number,
  statusId: number,
  assignedAt: number,
  finishedAt: number | null,
  logTime: number,
  placed: number,
  ownerLookedAt: number | null
];

interface SaidRow {
  taskId: number;
  at: number;
  until: number;
  personId: number;
  promised: string | null;
}

interface SpanRow {
  taskId: number;
  phase: Phase;
  fromAt: number;
}

/** Of a task `t`, what was said of it `p` in the present round and with the present due date; what waits for a yes is not said yet. */
const SAID = `p.round = t.round AND p.due IS t.due_date AND p.state NOT IN ('asked', 'refused')`;
const NOTHING_SAID: readonly SaidRow[] = [];

/** What conditions ask of tasks besides their facts, of one or of all at once. */
export class TaskDetailStore {
  readonly #rows;
  readonly #rowsIn;
  readonly #tags;
  readonly #tagsIn;
  readonly #values;
  readonly #valuesIn;
  readonly #spans;
  readonly #spansIn;
  readonly #said;
  readonly #saidIn;
  readonly #contacts;
  readonly #contactsIn;
  readonly #forDigests;
  readonly #logged;
  readonly #slips;
  readonly #stuckSince;

  constructor(db: Db) {
    const select = `SELECT t.id, t.description, t.status_id AS statusId, t.section_id AS sectionId, t.parent_id AS parentId,
      t.created_at AS createdAt, t.created_by AS createdBy, t.assigned_at AS assignedAt, t.due_since AS dueSince, t.touched_at AS touchedAt,
      t.finished_at AS finishedAt, t.review_date AS reviewDate, t.set_aside_at AS asideAt, t.percent, t.keep, t.log_time AS logTime,
      t.rhythm,
      (SELECT count(*) FROM slip WHERE slip.task_id = t.id AND slip.round = t.round) AS slips,
      (SELECT count(*) FROM task c JOIN status cs ON cs.id = c.status_id WHERE c.parent_id = t.id
        AND c.set_aside IS NULL AND cs.phase NOT IN ('finished', 'closed')) AS openSubtasks,
      (SELECT coalesce(sum(minutes), 0) FROM time_entry WHERE time_entry.task_id = t.id) AS minutesLogged,
      EXISTS (SELECT 1 FROM placement WHERE placement.task_id = t.id AND placement.person_id = t.owner_id) AS placed,
      (SELECT at FROM desk_look WHERE desk_look.person_id = t.owner_id) AS ownerLookedAt FROM task t`;
    this.#rows = db.prepare<[], DetailRow>(select);
    this.#rowsIn = db.prepare<[number, number], DetailRow>(`${select} WHERE t.id BETWEEN ? AND ?`);
    this.#forDigests = db
      .prepare<[], DigestRow>(
        // The plus: nearly all of them are in the list, and going through the table is quicker than looking up each.
        `SELECT id, status_id, assigned_at, finished_at, log_time,
         EXISTS (SELECT 1 FROM placement WHERE task_id = task.id AND person_id = task.owner_id), l.at
         FROM task LEFT JOIN desk_look l ON l.person_id = task.owner_id WHERE +set_aside IS NULL`
      )
      .raw();
    this.#logged = db.prepare<[], { taskId: number; minutes: number }>(
      'SELECT task_id AS taskId, sum(minutes) AS minutes FROM time_entry GROUP BY task_id'
    );
    this.#slips = db.prepare<[], { taskId: number; slips: number }>(
      `SELECT s.task_id AS taskId, count(*) AS slips FROM slip s JOIN task t ON t.id = s.task_id AND t.round = s.round
       GROUP BY s.task_id HAVING count(*) > 1`
    );
    this.#stuckSince = db.prepare<[], { taskId: number; at: number }>(
      `SELECT p.task_id AS taskId, max(p.from_at) AS at FROM status_span p JOIN status s ON s.id = p.status_id
       WHERE p.until_at IS NULL AND s.phase = 'stuck on others' GROUP BY p.task_id`
    );
    const tag = 'SELECT task_id AS taskId, name FROM task_tag';
    this.#tags = db.prepare<[], { taskId: number; name: string }>(`${tag} ORDER BY task_id, name`);
    this.#tagsIn = db.prepare<[number, number], { taskId: number; name: string }>(
      `${tag} WHERE task_id BETWEEN ? AND ? ORDER BY task_id, name`
    );
    const value = 'SELECT task_id AS taskId, field_id AS fieldId, value FROM field_value';
    this.#values = db.prepare<[], { taskId: number; fieldId: number; value: string }>(value);
    this.#valuesIn = db.prepare<[number, number], { taskId: number; fieldId: number; value: string }>(
      `${value} WHERE task_id BETWEEN ? AND ? ORDER BY task_id, field_id`
    );
    const span = `SELECT p.task_id AS taskId, s.phase, p.from_at AS fromAt FROM status_span p JOIN status s ON s.id = p.status_id`;
    this.#spans = db.prepare<[], SpanRow>(`${span} ORDER BY p.task_id, p.from_at DESC, p.id DESC`);
    this.#spansIn = db.prepare<[number, number], SpanRow>(
      `${span} WHERE p.task_id BETWEEN ? AND ? ORDER BY p.task_id, p.from_at DESC, p.id DESC`
    );
    const said = `SELECT p.task_id AS taskId, coalesce(p.answered_at, p.made_at) AS at, p.until_at AS until, p.person_id AS personId, p.promised
      FROM promise p JOIN task t ON t.id = p.task_id WHERE ${SAID}`;
    this.#said = db.prepare<[], SaidRow>(`${said} ORDER BY p.task_id, at, p.id`);
    this.#saidIn = db.prepare<[number, number], SaidRow>(
      `${said} AND p.task_id BETWEEN ? AND ? ORDER BY p.task_id, at, p.id`
    );
    const contact = 'SELECT task_id AS taskId, contact_id AS contactId FROM contact_link WHERE task_id';
    this.#contacts = db.prepare<[], { taskId: number; contactId: number }>(`${contact} IS NOT NULL`);
    this.#contactsIn = db.prepare<[number, number], { taskId: number; contactId: number }>(
      `${contact} BETWEEN ? AND ? ORDER BY task_id, id`
    );
  }

  of(taskId: number): TaskDetails | null {
    return this.in(taskId, taskId).get(taskId) ?? null;
  }

  /** Of the tasks from one id to another, both included. */
  in(first: number, last: number): Map<number, TaskDetails> {
    return toDetailsOfAll(
      this.#rowsIn.all(first, last),
      this.#tagsIn.all(first, last),
      this.#valuesIn.all(first, last),
      this.#spansIn.all(first, last),
      this.#saidIn.all(first, last),
      this.#contactsIn.all(first, last)
    );
  }

  /** How often each task was moved later in its round, those that were more than once. */
  slips(): Map<number, number> {
    return new Map(this.#slips.all().map(({ taskId, slips }) => [taskId, slips]));
  }

  /** Since when each task that waits for others has its status. */
  stuckSince(): Map<number, number> {
    return new Map(this.#stuckSince.all().map(({ taskId, at }) => [taskId, at]));
  }

  /** Of every task in the list what digests ask, and nothing else: that is read in a fraction of the time. */
  forDigests(): (taskId: number) => DigestDetails {
    const rows = new Map<number, DigestRow>();
    for (const row of this.#forDigests.all()) rows.set(row[0], row);
    const logged = new Map(this.#logged.all().map(({ taskId, minutes }) => [taskId, minutes]));
    const said = new Set(this.#said.all().map(({ taskId }) => taskId));
    return (id) => {
      const row = rows.get(id);
      if (!row) return NO_DETAILS;
      return {
        statusId: row[1],
        assignedAt: row[2],
        finishedAt: row[3],
        logTime: row[4] === 1,
        minutesLogged: logged.get(id) ?? 0,
        acknowledged: said.has(id),
        placed: row[5] === 1,
        ownerLookedAt: row[6]
      };
    };
  }

  /** Of every task, in a few passes. */
  all(): Map<number, TaskDetails> {
    return toDetailsOfAll(
      this.#rows.all(),
      this.#tags.all(),
      this.#values.all(),
      this.#spans.all(),
      this.#said.all(),
      this.#contacts.all()
    );
  }
}

function toDetailsOfAll(
  rows: readonly DetailRow[],
  allTags: readonly { taskId: number; name: string }[],
  allValues: readonly { taskId: number; fieldId: number; value: string }[],
  allSpans: readonly SpanRow[],
  allSaid: readonly SaidRow[],
  allContacts: readonly { taskId: number; contactId: number }[]
): Map<number, TaskDetails> {
  const [tags, values, spans] = [grouped(allTags), grouped(allValues), grouped(allSpans)];
  const [said, contacts] = [grouped(allSaid), grouped(allContacts)];
  return new Map(
    rows.map((row) => [
      row.id,
      toDetails(
        row,
        (tags.get(row.id) ?? []).map(({ name }) => name),
        ownOf(values.get(row.id) ?? []),
        spans.get(row.id) ?? [],
        said.get(row.id) ?? NOTHING_SAID,
        (contacts.get(row.id) ?? []).map(({ contactId }) => contactId)
      )
    ])
  );
}

function toDetails(
  { id: _, reviewDate, keep, logTime, rhythm, dueSince, placed, ...row }: DetailRow,
  tags: string[],
  own: ReadonlyMap<number, FieldValue>,
  spans: readonly SpanRow[],
  said: readonly SaidRow[],
  contactIds: number[]
): TaskDetails {
  const phase = spans[0]?.phase;
  // The newest stretch stands first; those before it in the same phase belong to it.
  const before = spans.findIndex((span) => span.phase !== phase);
  const first = spans[before < 0 ? spans.length - 1 : before - 1];
  const phaseSince = first?.fromAt ?? row.createdAt;
  return {
    ...row,
    keep: keep === 1,
    logTime: logTime === 1,
    placed: placed === 1,
    acknowledged: said.length > 0,
    acknowledgements: said.map(({ promised, ...one }) => ({ ...one, promised: promised !== null })),
    promiseDate: dateOf(said.findLast(({ promised }) => promised !== null)?.promised ?? null),
    dueSince: dueSince ?? 0,
    stops: stopsOf(spans),
    rhythmDays: rhythm === null ? null : rhythmDays(JSON.parse(rhythm) as StoredRhythm),
    reviewDate: dateOf(reviewDate),
    closedAt: phase === 'closed' ? phaseSince : null,
    phaseSince,
    tags,
    own,
    contactIds
  };
}

function dateOf(date: string | null): Moment | null {
  return date === null ? null : { day: parseDay(date), minute: null, zone: null };
}

/** When it waited for others or was finished; of a stretch that still lasts the end is not known. */
function stopsOf(spans: readonly SpanRow[]): LadderPause[] {
  if (spans.every(({ phase }) => isOpen(phase) && phase !== 'stuck on others')) return NO_STOPS;
  return spans.flatMap(({ phase, fromAt }, i): LadderPause[] => {
    if (phase !== 'stuck on others' && isOpen(phase)) return [];
    const why = phase === 'stuck on others' ? 'waits for others' : 'finished';
    return [{ from: fromAt, until: i === 0 ? Infinity : spans[i - 1]!.fromAt, why }];
  });
}

const NO_STOPS: LadderPause[] = [];

function ownOf(rows: readonly { fieldId: number; value: string }[]): ReadonlyMap<number, FieldValue> {
  return rows.length === 0
    ? NO_VALUES
    : new Map(rows.map(({ fieldId, value }) => [fieldId, JSON.parse(value) as FieldValue]));
}

const NO_VALUES: ReadonlyMap<number, FieldValue> = new Map();

function grouped<T extends { taskId: number }>(rows: readonly T[]): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const row of rows) {
    const group = groups.get(row.taskId);
    if (group) group.push(row);
    else groups.set(row.taskId, [row]);
  }
  return groups;
}
