import { CodedError } from '../../core/errors.ts';
import { isReachable, type PersonFacts } from '../../core/forecast/facts/facts.ts';
import { longMoment } from '../../core/time/format.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import { leftBecauseOf } from './left-because.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import { queuePlain } from '../engine/plain-message.ts';
import type { Outbox } from '../outbox/outbox.ts';
import type { Stores } from '../store/all.ts';
import type { LeftMessage } from '../store/undoing.ts';
import type { Actor } from '../workspace/commit.ts';

interface Tellers {
  work: UnitOfWork;
  stores: Stores;
  source: FactsSource;
  clock: WorkspaceClock;
  outbox: Outbox;
}

/** Subjects that are named in one message. */
const NAMED = 10;

/** What has left cannot be taken back: whoever read it can be told that what it was about was. */
export class TakenBack {
  readonly #of: Tellers;
  readonly #origin: string;

  constructor(of: Tellers, origin: string) {
    this.#of = of;
    this.#origin = origin;
  }

  /** Who read what had left before an undo, and can be told; empty once they have been. */
  readers(undoId: number): Map<PersonFacts, LeftMessage[]> {
    const { stores, source } = this.#of;
    const readers = new Map<PersonFacts, LeftMessage[]>();
    if (stores.journal.isToldOfUndo(undoId)) return readers;
    const undo = stores.changes.byId(undoId);
    if (!undo) return readers;
    for (const message of leftBecauseOf(this.#of, stores.changes.takenBackBy(undoId), undo.at)) {
      const reader = source.facts.people.get(message.readerId);
      if (!reader || !isReachable(reader)) continue;
      readers.set(reader, [...(readers.get(reader) ?? []), message]);
    }
    return readers;
  }

  /**
   * Tells them, each once, by the ways that they chose for what they had read.
   * @returns how many are told
   * @throws CodedError `nobody-to-tell`
   */
  tell(actor: Actor, undoId: number): number {
    const { work, stores, clock, outbox } = this.#of;
    const undo = stores.changes.byId(undoId);
    const readers = this.readers(undoId);
    if (!undo || readers.size === 0) throw new CodedError('nobody-to-tell');
    const now = clock.now();
    const by = undo.actorId === null ? null : stores.people.byId(undo.actorId)?.name;
    work.run(() => {
      for (const [reader, messages] of readers) {
        const subjects = [...new Map(messages.map((one) => [one.messageId, one])).values()];
        const told = subjects
          .slice(0, NAMED)
          .map(({ subject, leavesAt }) => `“${subject}”, ${longMoment(leavesAt, reader.zone)}`);
        const more = subjects.length > NAMED ? ` and ${subjects.length - NAMED} more` : '';
        const what = undo.title.replace(/^Undone: /, '');
        queuePlain(
          stores,
          { reader, kind: messages[0]!.kind, now },
          { of: 'taken-back', key: [undoId, reader.id] },
          {
            subject: `Undone: ${what}`,
            paragraphs: [
              `You were told: ${told.join('; ')}${more}.`,
              `This no longer applies: ${by ?? 'somebody'} undid what it was about, “${what}”.`
            ],
            link: `${this.#origin}/tasks`,
            words: 'Open the tasks'
          }
        );
      }
      const data = { actorId: actor.personId, readers: readers.size };
      stores.journal.add(now, clock.machine.now(), 'told of an undo', data, undoId);
    });
    outbox.wake();
    return readers.size;
  }
}
