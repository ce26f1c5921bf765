import { CodedError } from '../../core/errors.ts';
import { checkDigest } from '../../core/digest/check.ts';
import {
  DIGEST_PARTS,
  blankDigest,
  type DigestDefinition,
  type DigestPart
} from '../../core/digest/model.ts';
import { digestReaders } from '../../core/digest/readers.ts';
import { nextOwnDigest } from '../../core/digest/when.ts';
import { formatDay } from '../../core/time/day.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { DigestMaker } from '../engine/digest-maker.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { DigestInput } from './schema.ts';
import type { Stores } from '../store/all.ts';
import type { Digest, DigestStages } from '../store/digests.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** A digest as somebody would get it at a moment. */
export interface DigestPreview {
  subject: string;
  text: string;
  html: string;
  files: string[];
  parts: DigestPart[];
  stages: DigestStages;
  /** Nothing would be sent, since there is nothing to say. */
  isEmpty: boolean;
}

/** What people do with digests. */
export class DigestService {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #maker: DigestMaker;

  constructor(
    {
      work,
      stores,
      source,
      clock
    }: { work: UnitOfWork; stores: Stores; source: FactsSource; clock: WorkspaceClock },
    committer: Committer,
    maker: DigestMaker
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#committer = committer;
    this.#source = source;
    this.#clock = clock;
    this.#maker = maker;
  }

  /**
   * A new one, off until it is turned on.
   * @throws CodedError as `checkDigest`
   */
  add(actor: Actor, { name, description, definition }: DigestInput): Committed<number> {
    this.#check(definition);
    return this.#committer.commit(actor, `Digest “${name}” added`, (writer) =>
      writer.insert('digest', {
        ...{ name, description, state: 'off', definition: JSON.stringify(definition) },
        keeper_id: actor.personId,
        position: Math.max(0, ...this.#stores.digests.all().map(({ position }) => position)) + 1
      })
    );
  }

  /** A digest to begin from: a schedule each working day of the week at 19:00 in the workspace’s zone, about everybody’s work. */
  blank(): DigestInput {
    const { zone } = this.#source.facts.workspace;
    return {
      name: 'A new digest',
      description: '',
      definition: {
        ...blankDigest(),
        when: {
          by: 'schedule',
          rrule: 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
          start: formatDay(zone.dayOf(this.#clock.now())),
          time: '19:00',
          zone: zone.name,
          closedDay: 'skip'
        },
        to: [{ who: 'coordinator' }],
        about: 'everybody',
        sections: ['overdue', 'due today', 'finished'],
        columns: [
          { field: 'task', caption: '' },
          { field: 'owner', caption: '' },
          { field: 'due', caption: '' },
          { field: 'days left', caption: '' }
        ]
      }
    };
  }

  /** @throws CodedError `digest-gone`, and as `checkDigest` */
  save(actor: Actor, id: number, { name, description, definition }: DigestInput): Committed<void> {
    this.#need(id);
    this.#check(definition);
    return this.#committer.commit(actor, `Digest “${name}” changed`, (writer) => {
      writer.update('digest', id, { name, description, definition: JSON.stringify(definition) });
    });
  }

  /** On or off. What would have left meanwhile is not made up for. @throws CodedError `digest-gone` */
  turn(actor: Actor, id: number, state: 'on' | 'off'): Committed<void> {
    const { name, definition } = this.#need(id);
    if (state === 'on') this.#check(definition);
    return this.#committer.commit(actor, `Digest “${name}” turned ${state}`, (writer) => {
      writer.update('digest', id, { state, ...(state === 'on' ? { on_at: this.#clock.now() } : {}) });
    });
  }

  /** @throws CodedError `digest-gone` */
  drop(actor: Actor, id: number): Committed<void> {
    const { name } = this.#need(id);
    return this.#committer.commit(actor, `Digest “${name}” removed`, (writer) => {
      writer.remove('digest', id);
    });
  }

  /**
   * What somebody would get at a moment from the facts as they stand now. Nothing is sent; that another’s was looked at is written into
   * the journal.
   * @param input instead of what is saved
   * @param personId 0 for what goes to all together
   * @throws CodedError `digest-gone`, `digest-reader`, and as `checkDigest`
   */
  preview(
    actor: Actor,
    id: number,
    personId: number,
    at: number,
    input: Pick<DigestInput, 'name' | 'definition'> | null = null
  ): DigestPreview {
    const digest: Digest = { ...this.#need(id), ...input };
    this.#check(digest.definition);
    const readers = digestReaders(digest.definition, this.#source.facts, digest.keeperId);
    const together = digest.definition.gather === 'together';
    const reader = together ? null : readers.find((one) => one.id === personId);
    if (reader === undefined) {
      const name = this.#source.facts.people.get(personId)?.name ?? 'A removed person';
      throw new CodedError('digest-reader', { name }, 'person');
    }
    const parts = this.#partsFor(digest.definition, reader?.id ?? 0, at);
    const kept = reader ? this.#stores.notices.foldedOf(reader.id, at) : [];
    const made = this.#maker.make({ digest, reader, parts, at, kept, runId: null, viewerId: actor.personId });
    if (reader && reader.id !== actor.personId) this.#noteRead(actor, id, reader.id);
    const { subject, text, html, attachments } = made.message;
    return {
      ...{ subject, text, html },
      files: attachments.map(({ name }) => name),
      parts: [...parts],
      stages: { ...made.stages, readers: reader ? 1 : readers.length },
      isEmpty: made.isEmpty && digest.definition.empty === 'skip'
    };
  }

  /** A coordinator reads as somebody else. */
  #noteRead(actor: Actor, digestId: number, personId: number): void {
    const data = { actorId: actor.personId, personId, digestId };
    this.#work.run(() =>
      this.#stores.journal.add(this.#clock.now(), this.#clock.machine.now(), 'read as', data)
    );
  }

  /** Of a person’s own digests those whose time it is then; at any other moment both. */
  #partsFor({ when }: DigestDefinition, readerId: number, at: number): readonly DigestPart[] {
    const person = this.#source.facts.people.get(readerId);
    if (when.by === 'schedule' || !person) return DIGEST_PARTS;
    const next = nextOwnDigest(at - 1, person);
    return next?.at === at ? next.parts : DIGEST_PARTS;
  }

  #check(definition: DigestDefinition): void {
    checkDigest(definition, this.#source.facts, this.#clock.now());
  }

  #need(id: number): Digest {
    const digest = this.#stores.digests.byId(id);
    if (!digest) throw new CodedError('digest-gone');
    return digest;
  }
}
