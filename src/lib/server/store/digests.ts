import type { DigestDefinition, DigestPart } from '../../core/digest/model.ts';
import { blankDigest } from '../../core/digest/model.ts';
import type { RollUpBefore } from '../../core/digest/roll-up.ts';
import type { Db } from '../db/open.ts';

export interface Digest {
  id: number;
  name: string;
  description: string;
  keeperId: number | null;
  state: 'on' | 'off';
  position: number;
  definition: DigestDefinition;
  /** Since when it is on, workspace clock. */
  onAt: number | null;
}

/** When a digest leaves next for a reader; 0 stands for all of them together. */
export interface DigestPlanRow {
  digestId: number;
  readerId: number;
  nextAt: number;
  parts: DigestPart[];
}

/** What a digest came to on its way from tasks to a message. */
export interface DigestStages {
  /** Tasks that were looked at. */
  looked: number;
  /** In one of its sections. */
  found: number;
  /** Rows in the message; the rest is counted there. */
  shown: number;
  /** Notices that were kept to come with it. */
  kept: number;
  /** Of one to all: its readers. */
  readers: number;
}

export interface DigestRun {
  id: number;
  digestId: number;
  readerId: number;
  at: number;
  madeAt: number;
  parts: DigestPart[];
  state: 'sent' | 'empty' | 'skipped';
  reason: string | null;
  messageId: number | null;
  stages: DigestStages | null;
  /** Of what was sent: its subject, and how its delivery ended; null while it is on its way. */
  subject: string | null;
  end: 'accepted' | 'failed' | null;
}

type StoredPlan = Omit<DigestPlanRow, 'parts'> & { parts: string };
type StoredRun = Omit<DigestRun, 'parts' | 'stages'> & { parts: string; stages: string };

/** A message has arrived where one of its deliveries was taken; it failed where all have ended without. */
const RUN = `SELECT r.id, r.digest_id AS digestId, r.reader_id AS readerId, r.at, r.made_at AS madeAt, r.parts, r.state, r.reason,
  r.message_id AS messageId, r.stages, m.subject,
  (SELECT CASE WHEN count(*) FILTER (WHERE d.state = 'accepted') > 0 THEN 'accepted'
     WHEN count(*) FILTER (WHERE d.state IN ('queued', 'leased')) = 0 AND count(*) > 0 THEN 'failed' END
   FROM delivery d WHERE d.message_id = r.message_id) AS end
  FROM digest_run r LEFT JOIN message m ON m.id = r.message_id`;

/** Digests, when each leaves next, and what became of each. */
export class DigestStore {
  readonly #all;
  readonly #byId;
  readonly #plan;
  readonly #put;
  readonly #drop;
  readonly #due;
  readonly #nextAt;
  readonly #nextOf;
  readonly #begin;
  readonly #end;
  readonly #run;
  readonly #runAt;
  readonly #lastSent;
  readonly #newest;
  readonly #newestSent;
  readonly #forgetPlan;

  constructor(db: Db) {
    const digest = `SELECT id, name, description, keeper_id AS keeperId, state, position, definition, on_at AS onAt FROM digest`;
    type Row = Omit<Digest, 'definition'> & { definition: string };
    this.#all = db.prepare<[], Row>(`${digest} ORDER BY position, id`);
    this.#byId = db.prepare<[number], Row>(`${digest} WHERE id = ?`);
    const plan = `SELECT digest_id AS digestId, reader_id AS readerId, next_at AS nextAt, parts FROM digest_plan`;
    this.#plan = db.prepare<[], StoredPlan>(plan);
    this.#due = db.prepare<[number, number], StoredPlan>(
      `${plan} WHERE next_at <= ? ORDER BY next_at, digest_id, reader_id LIMIT ?`
    );
    this.#put = db.prepare<[number, number, number, string]>(
      `INSERT INTO digest_plan (digest_id, reader_id, next_at, parts) VALUES (?, ?, ?, ?)
       ON CONFLICT (digest_id, reader_id) DO UPDATE SET next_at = excluded.next_at, parts = excluded.parts`
    );
    this.#drop = db.prepare<[number, number]>(
      'DELETE FROM digest_plan WHERE digest_id = ? AND reader_id = ?'
    );
    this.#forgetPlan = db.prepare('DELETE FROM digest_plan');
    this.#nextAt = db.prepare<[], { at: number | null }>('SELECT min(next_at) AS at FROM digest_plan');
    this.#nextOf = db.prepare<[{ digestId: number }], { at: number | null; readers: number }>(
      `SELECT min(next_at) AS at, count(*) AS readers FROM digest_plan WHERE digest_id = @digestId
       AND next_at = (SELECT min(next_at) FROM digest_plan WHERE digest_id = @digestId)`
    );
    this.#begin = db.prepare<[number, number, number, number, string]>(
      `INSERT INTO digest_run (digest_id, reader_id, at, made_at, parts, state) VALUES (?, ?, ?, ?, ?, 'skipped')
       ON CONFLICT DO NOTHING`
    );
    this.#end = db.prepare<
      [Pick<DigestRun, 'id' | 'state' | 'reason'> & Record<'messageId' | 'stages' | 'numbers', string | null>]
    >(
      `UPDATE digest_run SET state = @state, reason = @reason, stages = @stages, numbers = @numbers,
       message_id = (SELECT id FROM message WHERE message_id = @messageId) WHERE id = @id`
    );
    this.#run = db.prepare<[number], StoredRun>(`${RUN} WHERE r.id = ?`);
    this.#runAt = db.prepare<[number, number, number], { id: number }>(
      'SELECT id FROM digest_run WHERE digest_id = ? AND reader_id = ? AND at = ?'
    );
    this.#lastSent = db.prepare<[number, number, string, number], { at: number; numbers: string | null }>(
      `SELECT at, numbers FROM digest_run WHERE digest_id = ? AND reader_id = ? AND state = 'sent'
       AND instr(' ' || parts || ' ', ' ' || ? || ' ') > 0 AND at < ? ORDER BY at DESC LIMIT 1`
    );
    this.#newestSent = db.prepare<[number], { at: number | null }>(
      `SELECT max(at) AS at FROM digest_run WHERE digest_id = ? AND state = 'sent'`
    );
    this.#newest = db.prepare<[number, number], StoredRun>(
      `${RUN} WHERE r.digest_id = ? ORDER BY r.at DESC, r.id DESC LIMIT ?`
    );
  }

  /** When the last one left; null when none has. */
  newestSent(digestId: number): number | null {
    return this.#newestSent.get(digestId)!.at;
  }

  /** In their order. */
  all(): Digest[] {
    return this.#all.all().map(toDigest);
  }

  byId(id: number): Digest | null {
    const row = this.#byId.get(id);
    return row ? toDigest(row) : null;
  }

  plan(): DigestPlanRow[] {
    return this.#plan.all().map(withParts);
  }

  /** Those that leave at or before an instant, the earliest first. */
  due(at: number, limit: number): DigestPlanRow[] {
    return this.#due.all(at, limit).map(withParts);
  }

  put({ digestId, readerId, nextAt, parts }: DigestPlanRow): void {
    this.#put.run(digestId, readerId, nextAt, parts.join(' '));
  }

  drop({ digestId, readerId }: Pick<DigestPlanRow, 'digestId' | 'readerId'>): void {
    this.#drop.run(digestId, readerId);
  }

  forgetPlan(): void {
    this.#forgetPlan.run();
  }

  /** When the next of any leaves; null when none does. */
  nextAt(): number | null {
    return this.#nextAt.get()!.at;
  }

  /** When a digest leaves next, and to how many then. */
  nextOf(digestId: number): { at: number | null; readers: number } {
    return this.#nextOf.get({ digestId })!;
  }

  /** @returns the run, or null where this one was made before: each is made once */
  begin(row: DigestPlanRow, now: number): number | null {
    const { changes } = this.#begin.run(row.digestId, row.readerId, row.nextAt, now, row.parts.join(' '));
    return changes === 0 ? null : this.#runAt.get(row.digestId, row.readerId, row.nextAt)!.id;
  }

  /** @param messageId the Message-ID of what was queued */
  end(
    id: number,
    state: DigestRun['state'],
    reason: string | null,
    made: { messageId: string | null; stages: DigestStages | null; numbers: RollUpBefore | null }
  ): void {
    const numbers = made.numbers === null ? null : JSON.stringify(made.numbers);
    const stages = JSON.stringify(made.stages ?? {});
    this.#end.run({ id, state, reason, messageId: made.messageId, stages, numbers });
  }

  run(id: number): DigestRun | null {
    const row = this.#run.get(id);
    return row ? toRun(row) : null;
  }

  /** The last one that was sent to a reader with this part in it, before an instant. */
  lastSent(
    digestId: number,
    readerId: number,
    part: DigestPart,
    before: number
  ): { at: number; numbers: RollUpBefore | null } | null {
    const row = this.#lastSent.get(digestId, readerId, part, before);
    if (!row) return null;
    return { at: row.at, numbers: row.numbers === null ? null : (JSON.parse(row.numbers) as RollUpBefore) };
  }

  /** The newest runs of a digest. */
  newest(digestId: number, most: number): DigestRun[] {
    return this.#newest.all(digestId, most).map(toRun);
  }
}

function toDigest(row: Omit<Digest, 'definition'> & { definition: string }): Digest {
  const stored = JSON.parse(row.definition) as Partial<DigestDefinition>;
  return { ...row, definition: { ...blankDigest(), ...stored } };
}

function withParts(row: StoredPlan): DigestPlanRow {
  return { ...row, parts: row.parts.split(' ') as DigestPart[] };
}

function toRun(row: StoredRun): DigestRun {
  const stages = JSON.parse(row.stages) as DigestStages | Record<string, never>;
  return {
    ...row,
    parts: row.parts.split(' ') as DigestPart[],
    stages: 'looked' in stages ? (stages as DigestStages) : null
  };
}
