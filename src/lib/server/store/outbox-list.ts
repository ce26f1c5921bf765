import type { NoticeKind } from '../../core/notice/kinds.ts';
import type { Db } from '../db/open.ts';

/** How notices end, as people look for them. */
export const NOTICE_ENDS = [
  'waiting',
  'being sent',
  'sent',
  'answered',
  'may have arrived',
  'failed',
  'not sent',
  'withdrawn'
] as const;
export type NoticeEnd = (typeof NOTICE_ENDS)[number];

/** A notice with its end. Instants on the workspace clock. */
export interface OutboxRow {
  id: number;
  state: string;
  reason: string | null;
  kind: NoticeKind;
  ringAt: number;
  leavesAt: number | null;
  actedAt: number | null;
  lateBell: 0 | 1;
  ruleId: number;
  rule: string | null;
  taskId: number;
  task: string | null;
  /** Whose task it is where nobody else may read its name; null where it is not private. */
  privateOf: number | null;
  recipientId: number;
  readerId: number;
  runId: number | null;
  /** Channels of its deliveries, with commas between. */
  channels: string | null;
  /** What the other side said last. */
  answer: string | null;
  /** An attempt ended without our knowing how. */
  inDoubt: 0 | 1;
  /** Why it rang, and what moved it since: `WhyStep[]` as JSON. */
  whySteps: string;
  /** By what the list is ordered. */
  at: number;
}

export interface OutboxFilter {
  end: NoticeEnd | null;
  ruleId: number | null;
  personId: number | null;
  /** Of the task's name; private ones are not found by it. */
  text: string;
  /** Instants of leaving, or of the end of what did not leave, in `[from, until)`. */
  from: number | null;
  until: number | null;
}

/** Where a page of the list goes on: behind the row of this instant and id. */
export interface OutboxKey {
  at: number;
  id: number;
}

/** What SQL can ask of each end. */
const IS: Readonly<Record<NoticeEnd, string>> = {
  waiting: `n.state IN ('planned', 'held', 'folded')`,
  'being sent': `n.state = 'sending'`,
  sent: `n.state = 'sent'`,
  answered: `n.acted_at IS NOT NULL`,
  'may have arrived': `(n.state = 'in doubt' OR EXISTS (SELECT 1 FROM message_notice mn JOIN delivery d ON d.message_id = mn.message_id
    WHERE mn.notice_id = n.id AND d.in_doubt = 1))`,
  failed: `n.state = 'failed'`,
  'not sent': `n.state = 'unrung'`,
  withdrawn: `n.state = 'withdrawn'`
};

/** What still waits. */
const WAITING = IS.waiting;
/** When a notice left, or ended without leaving; as the index `notice_by_leaving` has it. */
const LEFT_AT = `(CASE WHEN n.state IN ('unrung', 'withdrawn') THEN coalesce(n.ended_at, n.ring_at)
  ELSE coalesce(n.leaves_at, n.ended_at, n.ring_at) END)`;
/** When a notice leaves; one that waits for its task comes after all that know their time. */
const LEAVES_AT = 'coalesce(n.leaves_at, 9000000000000000)';

/** Every notice and its end, by when it leaves or left, page by page from a key on. */
export class OutboxListStore {
  readonly #db: Db;
  readonly #readBetween;
  readonly #prepared = new Map<string, ReturnType<OutboxListStore['prepare']>>();

  constructor(db: Db) {
    this.#db = db;
    this.#readBetween = db.prepare<[number, number, number], { id: number }>(
      `SELECT n.id FROM notice n WHERE ${LEFT_AT} >= ? AND ${LEFT_AT} <= ? AND coalesce(n.reader_id, n.recipient_id) = ?
       ORDER BY n.leaves_at, n.id`
    );
  }

  /** What still waits, the soonest first; nothing where the filter asks for another end. */
  toLeave(filter: OutboxFilter, after: OutboxKey | null, limit: number): OutboxRow[] {
    if (filter.end !== null && filter.end !== 'waiting') return [];
    return this.#page({ when: LEAVES_AT, is: WAITING, then: '>', order: 'ASC' }, filter, after, limit);
  }

  /** What has left, is on its way or ended otherwise, the last first; nothing where the filter asks for what waits. */
  left(filter: OutboxFilter, before: OutboxKey | null, limit: number): OutboxRow[] {
    if (filter.end === 'waiting') return [];
    const is = filter.end === null ? `NOT (${WAITING})` : IS[filter.end];
    return this.#page({ when: LEFT_AT, is, then: '<', order: 'DESC' }, filter, before, limit);
  }

  /** Notices that left from one instant to another to somebody, or ended then, both instants included. */
  readBetween(readerId: number, from: number, until: number): number[] {
    return this.#readBetween.all(from, until, readerId).map(({ id }) => id);
  }

  #page(part: ListPart, filter: OutboxFilter, key: OutboxKey | null, limit: number): OutboxRow[] {
    const { end: _, text, ...rest } = filter;
    const name = `${part.order}/${part.is}/${text !== ''}`;
    let statement = this.#prepared.get(name);
    if (!statement) this.#prepared.set(name, (statement = this.prepare(part, text !== '')));
    return statement.all({ ...rest, like: like(text), at: key?.at ?? null, id: key?.id ?? null, limit });
  }

  prepare({ when, is, then, order }: ListPart, searches: boolean) {
    return this.#db.prepare<
      [
        Omit<OutboxFilter, 'end' | 'text'> & {
          like: string;
          at: number | null;
          id: number | null;
          limit: number;
        }
      ],
      OutboxRow
    >(
      `SELECT n.id, n.state, n.reason, n.kind, n.ring_at AS ringAt, n.leaves_at AS leavesAt, n.acted_at AS actedAt,
       n.late_bell AS lateBell, n.why AS whySteps, ${when} AS at, g.rule_id AS ruleId, r.name AS rule, g.subject_id AS taskId, t.name AS task,
       CASE WHEN t.private = 1 THEN coalesce(t.owner_id, 0) END AS privateOf,
       n.recipient_id AS recipientId, coalesce(n.reader_id, n.recipient_id) AS readerId,
       (SELECT u.id FROM run u WHERE u.ring_id = n.ring_id) AS runId,
       (SELECT group_concat(DISTINCT d.channel) FROM message_notice mn JOIN delivery d ON d.message_id = mn.message_id
        WHERE mn.notice_id = n.id) AS channels,
       (SELECT d.last_answer FROM message_notice mn JOIN delivery d ON d.message_id = mn.message_id
        WHERE mn.notice_id = n.id AND d.last_answer IS NOT NULL ORDER BY d.id DESC LIMIT 1) AS answer,
       EXISTS (SELECT 1 FROM message_notice mn JOIN delivery d ON d.message_id = mn.message_id
        WHERE mn.notice_id = n.id AND d.in_doubt = 1) AS inDoubt
       FROM notice n JOIN ring g ON g.id = n.ring_id LEFT JOIN rule r ON r.id = g.rule_id
       LEFT JOIN task t ON t.id = g.subject_id AND g.subject_kind = 'task'
       WHERE (@at IS NULL OR (${when}, n.id) ${then} (@at, @id)) AND (@ruleId IS NULL OR g.rule_id = @ruleId)
       AND (@personId IS NULL OR coalesce(n.reader_id, n.recipient_id) = @personId OR n.recipient_id = @personId)
       AND (@from IS NULL OR ${when} >= @from) AND (@until IS NULL OR ${when} < @until)
       AND ${is} AND ${searches ? `(t.private = 0 AND t.name LIKE @like ESCAPE '\\')` : `@like = '%%'`}
       ORDER BY ${when} ${order}, n.id ${order} LIMIT @limit`
    );
  }
}

/** One of the two parts of the list: by which instant it is ordered, what stands in it, and which way it goes. */
interface ListPart {
  when: string;
  is: string;
  then: '<' | '>';
  order: 'ASC' | 'DESC';
}

/** A text as it is looked for anywhere in another. */
export function like(text: string): string {
  return `%${text.replace(/[\\%_]/g, '\\$&')}%`;
}
