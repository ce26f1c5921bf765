import { createHash } from 'node:crypto';
import { CodedError } from '../../core/errors.ts';
import { digestWays, kindsOf, whyNoDigest } from '../../core/digest/reach.ts';
import { digestReaders } from '../../core/digest/readers.ts';
import { DIGEST_PARTS } from '../../core/digest/model.ts';
import { digestSchedule, nextOwnDigest, nextScheduled } from '../../core/digest/when.ts';
import type { Facts, PersonFacts } from '../../core/forecast/facts/facts.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Stores } from '../store/all.ts';
import type { Digest, DigestPlanRow, DigestRun } from '../store/digests.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { CatchUp } from './catch-up.ts';
import type { DigestMaker } from './digest-maker.ts';
import type { FactsSource } from './facts-source.ts';
import type { WorkingOver } from './working-over.ts';

/** After downtime a digest is made up for while it is younger than this, and before the next one. */
const DOWNTIME_LIMIT_MS = 12 * 3_600_000;
/** What leaves within a minute of its instant is on time. */
const ON_TIME_MS = 60_000;
/** Hears of what could not be done, with what it was about. */
type OnFault = (error: unknown, about: Record<string, number>, now: number) => void;

/** It stands for all readers together. */
const TOGETHER = 0;

/** What was kept to come with a digest; what is not true any more ends there. */
export interface KeptNotices {
  kept(readerId: number, at: number, now: number): NoticeRecord[];
}

/**
 * Plans digests and lets them leave. Each is made once for a digest, a reader and an instant: the record of it is written before its words
 * are, in the same transaction as its message.
 */
export class Digests {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #maker: DigestMaker;
  readonly #leaving: KeptNotices;
  readonly #catchUp: CatchUp;
  #planned: { facts: Facts; digests: readonly Digest[] } | null = null;
  /** Those of the digest that was asked for last. */
  #readers: {
    digest: Digest;
    facts: Facts;
    readers: readonly PersonFacts[];
    byId: ReadonlyMap<number, PersonFacts>;
    /** That Message-IDs end in. */
    domain: string;
  } | null = null;

  readonly #work: UnitOfWork;
  readonly #onFault: OnFault;

  constructor(
    { work, stores, source }: WorkingOver,
    maker: DigestMaker,
    leaving: KeptNotices,
    catchUp: CatchUp,
    onFault: OnFault
  ) {
    this.#onFault = onFault;
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#maker = maker;
    this.#leaving = leaving;
    this.#catchUp = catchUp;
  }

  /** Plans the next of each digest and reader afresh where people, calendars or digests have changed. What was due while the server was down stays due. */
  sync(now: number): void {
    const digests = this.#source.digests();
    const { facts } = this.#source;
    if (this.#planned?.facts === facts && this.#planned.digests === digests) return;
    this.#planned = { facts, digests };
    this.#work.onRollback(() => (this.#planned = null));
    const before = new Map(this.#stores.digests.plan().map((row) => [keyOf(row), row]));
    for (const row of digests.flatMap((digest) => this.#rowsOf(digest, now))) {
      const known = before.get(keyOf(row));
      before.delete(keyOf(row));
      if (known && (known.nextAt <= now || isSame(known, row))) continue;
      this.#stores.digests.put(row);
    }
    for (const gone of before.values()) this.#stores.digests.drop(gone);
  }

  /** The clock was set back: what lies between is ahead again, except what has left. */
  forget(): void {
    this.#planned = null;
    this.#stores.digests.forgetPlan();
  }

  nextAt(): number | null {
    return this.#stores.digests.nextAt();
  }

  /** Those that leave at or before an instant, in their order. */
  due(at: number, most: number): DigestPlanRow[] {
    return this.#stores.digests.due(at, most);
  }

  /** Lets one leave, and plans the next. */
  ring(row: DigestPlanRow, now: number): void {
    this.#work.onRollback(() => this.#maker.forget());
    const digest = this.#digestOf(row);
    const next = this.#moveOn(digest, row);
    if (digest) this.#ring(digest, row, next, now);
    // What was read for many of one instant is not kept for the next.
    const more = this.nextAt();
    if (more === null || more > row.nextAt) this.#maker.forget();
  }

  /** Passes over one that cannot be made, and would stand in the way for ever. */
  passOver(row: DigestPlanRow): void {
    this.#moveOn(this.#digestOf(row), row);
  }

  #digestOf({ digestId }: DigestPlanRow): Digest | null {
    return this.#source.digests().find(({ id }) => id === digestId) ?? null;
  }

  /** @returns when the next one leaves; null where none does */
  #moveOn(digest: Digest | null, row: DigestPlanRow): number | null {
    const next = digest && this.#nextAfter(digest, row.readerId, row.nextAt);
    if (next) this.#stores.digests.put({ ...row, ...next });
    else this.#stores.digests.drop(row);
    return next?.nextAt ?? null;
  }

  #rowsOf(digest: Digest, now: number): DigestPlanRow[] {
    const { facts } = this.#source;
    const readers = digestReaders(digest.definition, facts, digest.keeperId);
    const ids =
      digest.definition.gather === 'together'
        ? readers.length > 0
          ? [TOGETHER]
          : []
        : readers.map(({ id }) => id);
    if (digest.definition.when.by === 'schedule') {
      const next = this.#nextAfter(digest, TOGETHER, now);
      return next === null ? [] : ids.map((readerId) => ({ digestId: digest.id, readerId, ...next }));
    }
    return ids.flatMap((readerId) => {
      const next = this.#nextAfter(digest, readerId, now);
      return next === null ? [] : [{ digestId: digest.id, readerId, ...next }];
    });
  }

  #nextAfter(
    { id, definition: { when } }: Digest,
    readerId: number,
    after: number
  ): Pick<DigestPlanRow, 'nextAt' | 'parts'> | null {
    const { people, workspace } = this.#source.facts;
    if (when.by === 'schedule') {
      try {
        const at = nextScheduled(after, digestSchedule(when, workspace.zone), workspace.calendar);
        return at === null ? null : { nextAt: at, parts: [...DIGEST_PARTS] };
      } catch (error) {
        // One whose schedule cannot be computed does not leave, and keeps none of the others from leaving.
        if (!(error instanceof CodedError)) throw error;
        this.#onFault(error, { digestId: id }, after);
        return null;
      }
    }
    const person = people.get(readerId);
    const next = person?.active ? nextOwnDigest(after, person) : null;
    return next && { nextAt: next.at, parts: [...next.parts] };
  }

  #ring(digest: Digest, row: DigestPlanRow, next: number | null, now: number): void {
    const id = this.#stores.digests.begin(row, now);
    if (id === null) return;
    const skip = this.#tooLate(row.nextAt, next, now);
    if (skip !== null) return this.#end(id, 'skipped', skip);
    const readers = this.#readersOf(digest, row);
    const told = readers.filter((reader) => this.#cannotRead(reader, row.nextAt) === null);
    const [only] = readers;
    if (told.length === 0)
      return this.#end(id, 'skipped', only ? this.#cannotRead(only, row.nextAt)! : 'it has no recipients');
    const reader = row.readerId === TOGETHER ? null : told[0]!;
    const kept = reader ? this.#leaving.kept(reader.id, row.nextAt, now) : [];
    const { parts } = row;
    const made = this.#maker.make({ digest, reader, parts, at: row.nextAt, kept, runId: id, viewerId: null });
    const stages = { ...made.stages, readers: told.length };
    if (made.isEmpty && digest.definition.empty === 'skip')
      return this.#stores.digests.end(id, 'empty', null, { messageId: null, stages, numbers: null });
    const isLate = now > row.nextAt + ON_TIME_MS;
    const messageId = `<digest-${hashOf(digest.id, row)}@${this.#readers!.domain}>`;
    this.#stores.outbox.queue(
      {
        readerId: told[0]!.id,
        messageId,
        leavesAt: isLate ? now : row.nextAt,
        kinds: kindsOf(parts),
        ...made.message
      },
      kept.map((notice) => notice.id),
      told.flatMap((one) => digestWays(one, parts).map((way) => ({ readerId: one.id, ...way })))
    );
    for (const notice of kept) this.#stores.notices.end(notice, 'sending', null, null);
    this.#stores.digests.end(id, 'sent', null, { messageId, stages, numbers: made.numbers });
  }

  #end(id: number, state: DigestRun['state'], reason: string): void {
    this.#stores.digests.end(id, state, reason, { messageId: null, stages: null, numbers: null });
  }

  /** Why one that should have left while nobody ran is not made up for; null where it is, and in time. */
  #tooLate(at: number, next: number | null, now: number): string | null {
    if (next !== null && next <= now) return 'overtaken by the next one';
    if (this.#catchUp.passesOver(at)) return 'passed over';
    return now - at >= DOWNTIME_LIMIT_MS ? 'too late' : null;
  }

  #readersOf(digest: Digest, { readerId }: DigestPlanRow): readonly PersonFacts[] {
    const { facts } = this.#source;
    const known = this.#readers;
    if (known?.digest !== digest || known.facts !== facts) {
      const readers = digestReaders(digest.definition, facts, digest.keeperId);
      const byId = new Map(readers.map((one) => [one.id, one]));
      this.#readers = { digest, facts, readers, byId, domain: this.#stores.settings.mailDomain() };
    }
    const { readers, byId } = this.#readers!;
    if (readerId === TOGETHER) return readers;
    const reader = byId.get(readerId);
    return reader ? [reader] : [];
  }

  #cannotRead(reader: PersonFacts, at: number): string | null {
    return whyNoDigest(reader, at, this.#source.facts);
  }
}

/** The same at every attempt: a receiver knows a repeat by it (RFC 5322 §3.6.4). */
function hashOf(digestId: number, { readerId, nextAt }: DigestPlanRow): string {
  return createHash('sha256').update([digestId, readerId, nextAt].join('\n')).digest('hex').slice(0, 32);
}

const keyOf = ({ digestId, readerId }: DigestPlanRow) => `${digestId}/${readerId}`;

function isSame(a: DigestPlanRow, b: DigestPlanRow): boolean {
  return a.nextAt === b.nextAt && a.parts.join() === b.parts.join();
}
