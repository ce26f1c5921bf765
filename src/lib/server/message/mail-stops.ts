import { CHANNEL, type ChannelName } from '../../core/channel/channels.ts';
import { DEFAULT_CHANNELS, type ChannelChoice } from '../../core/channel/ways.ts';
import { KINDS, type TellingKind } from '../../core/notice/kinds.ts';
import { CodedError } from '../../core/errors.ts';
import type { MailStopView } from '../../view/mail-stop.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import { readStopToken, type MailStopSubject } from '../engine/stop-tokens.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { Stores } from '../store/all.ts';
import { EVERYTHING } from '../store/mail-stops.ts';
import type { Person } from '../store/people.ts';
import type { Actor } from '../workspace/commit.ts';
import type { PeopleService } from '../person/people.ts';

/** By what they hear of a kind of which nothing but mail was chosen. */
const INSTEAD: ChannelName = 'in-app';

/**
 * Stops mail by the link that each message carries (RFC 2369), by one press of its reader's mail program too (RFC 8058). Whoever is of the team
 * hears of that kind in the application from then on, unless they hear by something else as well; whoever is outside gets no more mail at all.
 */
export class MailStops {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #people: PeopleService;

  constructor(
    {
      work,
      stores,
      source,
      clock
    }: { work: UnitOfWork; stores: Stores; source: FactsSource; clock: WorkspaceClock },
    people: PeopleService
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#people = people;
  }

  /** What the page of a link shows. @throws CodedError `link-broken` */
  view(token: string): MailStopView {
    const { readerId, kinds } = this.#read(token);
    const workspace = this.#stores.settings.workspace()?.name ?? 'Early Bell';
    if (readerId < 0) {
      const { address } = this.#outside(readerId);
      const stopped = this.#stores.mailStops.before(readerId, EVERYTHING) !== undefined;
      return { reader: address, workspace, kinds: null, stopped, instead: null, page: null };
    }
    const person = this.#person(readerId);
    return {
      ...{ reader: person.name, workspace },
      kinds: kinds.map((kind) => KINDS[kind].words),
      stopped: kinds.every((kind) => !chosen(person.channels, kind).includes('mail')),
      instead: this.#insteadOf(person, kinds),
      page: `/people/${readerId}`
    };
  }

  /** Once more is no mistake: mail programs ask twice. @throws CodedError `link-broken` */
  stop(token: string): void {
    const { readerId, kinds } = this.#read(token);
    const { mailStops } = this.#stores;
    const now = this.#clock.now();
    this.#work.run(() => {
      if (readerId < 0)
        return this.#outsideChanges(readerId, () => mailStops.put(readerId, EVERYTHING, null, now));
      const person = this.#person(readerId);
      const channels: ChannelChoice = { ...person.channels };
      for (const kind of kinds) {
        if (!chosen(channels, kind).includes('mail')) continue;
        mailStops.put(readerId, kind, channels[kind] ? [...channels[kind]] : null, now);
        channels[kind] = withoutMail(channels, kind);
      }
      this.#choose(person, channels);
    });
  }

  /** As it was before. @throws CodedError `link-broken` */
  goOn(token: string): void {
    const { readerId, kinds } = this.#read(token);
    const { mailStops } = this.#stores;
    this.#work.run(() => {
      if (readerId < 0) return this.#outsideChanges(readerId, () => mailStops.drop(readerId, EVERYTHING));
      const person = this.#person(readerId);
      const channels: ChannelChoice = { ...person.channels };
      for (const kind of kinds) {
        const before = mailStops.before(readerId, kind);
        mailStops.drop(readerId, kind);
        if (chosen(channels, kind).includes('mail')) continue;
        if (before === null) delete channels[kind];
        else channels[kind] = before ?? ['mail', ...chosen(channels, kind)];
      }
      this.#choose(person, channels);
    });
  }

  #choose(person: Person, channels: ChannelChoice): void {
    if (JSON.stringify(channels) === JSON.stringify(person.channels)) return;
    const actor: Actor = { personId: person.id, source: 'link' };
    this.#people.setChannels(actor, person.id, { chat: person.chat, channels });
  }

  /** Whoever is outside has no record that could be changed: what they asked for stands in the journal. */
  #outsideChanges(readerId: number, change: () => void): void {
    this.#outside(readerId);
    change();
    this.#stores.journal.add(this.#clock.now(), this.#clock.machine.now(), 'mail stopped', {
      readerId,
      stopped: this.#stores.mailStops.before(readerId, EVERYTHING) !== undefined
    });
    this.#source.invalidate();
  }

  #insteadOf({ channels }: Person, kinds: readonly TellingKind[]): string {
    const left = new Set(kinds.flatMap((kind) => withoutMail(channels, kind)));
    return [...left].map((channel) => CHANNEL[channel].words).join(' and ');
  }

  #read(token: string): MailStopSubject {
    const subject = readStopToken(this.#stores.actLinks.key(), token);
    if (!subject) throw new CodedError('link-broken');
    return subject;
  }

  #person(id: number): Person {
    const person = this.#stores.people.byId(id);
    if (!person?.active) throw new CodedError('link-broken');
    return person;
  }

  #outside(readerId: number): { address: string } {
    const outside = this.#stores.readers.outsider(-readerId);
    if (!outside) throw new CodedError('link-broken');
    return outside;
  }
}

function chosen(channels: ChannelChoice, kind: TellingKind): readonly ChannelName[] {
  return channels[kind] ?? DEFAULT_CHANNELS;
}

function withoutMail(channels: ChannelChoice, kind: TellingKind): readonly ChannelName[] {
  const others = chosen(channels, kind).filter((channel) => channel !== 'mail');
  return others.length > 0 ? others : [INSTEAD];
}
