import { many } from '../../core/many.ts';
import { formatDay } from '../../core/time/day.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { BeginView } from '../../view/begin.ts';
import type { ChannelHealth } from '../outbox/health.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** What a new workspace needs before a first message is read, in order. Each line ticks itself; all of it can be put away and found again. */
export class BeginService {
  readonly #of: Workspace;
  readonly #committer: Committer;
  readonly #health: ChannelHealth;

  constructor(of: Workspace, committer: Committer, health: ChannelHealth) {
    this.#of = of;
    this.#committer = committer;
    this.#health = health;
  }

  view(): BeginView {
    const { stores, source } = this.#of;
    const kept = stores.settings.begin();
    const people = stores.people.all().filter(({ active }) => active).length;
    const tasks = stores.tasks.count();
    const rules = stores.rules.made().filter(({ liveVersion }) => liveVersion !== null).length;
    const holidays = this.#holidaysAhead();
    const mail = this.#mail();
    const told = stores.notices.anySent();
    const tried = stores.deliveries.anyTried();
    return {
      away: kept.away,
      lines: [
        {
          key: 'week',
          done: kept.weekIsRight || holidays > 0,
          now: `${placeOfZone(source.facts.workspace.zone.nameAt(this.#of.clock.now()))} · ${this.#calendarName()} · ${many(holidays, 'holiday')} ahead`
        },
        { key: 'mail', done: mail.done, now: mail.now },
        { key: 'people', done: people > 1, now: people > 1 ? many(people, 'person', 'people') : 'only you' },
        { key: 'tasks', done: tasks > 0, now: many(tasks, 'task') },
        { key: 'rule', done: rules > 0, now: rules > 0 ? `${many(rules, 'rule')} on` : 'no rule is on' },
        {
          key: 'message',
          done: told || tried,
          now: told
            ? 'a rule has told somebody'
            : tried
              ? 'one was sent to try a rule; no rule has told anybody yet'
              : 'none yet'
        }
      ]
    };
  }

  /** Zone and week are right as they are. */
  confirmWeek(actor: Actor): Committed<void> {
    return this.#save(actor, 'Time zone and week are right', { weekIsRight: true });
  }

  /** Puts the list away, or brings it back. */
  putAway(actor: Actor, away: boolean): Committed<void> {
    return this.#save(actor, away ? 'Begin was put away' : 'Begin was brought back', { away });
  }

  #save(actor: Actor, words: string, changed: { away?: boolean; weekIsRight?: boolean }): Committed<void> {
    const { settings } = this.#of.stores;
    return this.#committer.commit(actor, words, (writer) =>
      settings.saveBegin(writer, { ...settings.begin(), ...changed })
    );
  }

  #mail(): { done: boolean; now: string } {
    if (this.#health.keepsMail) return { done: true, now: 'kept in the Post room here; nothing leaves' };
    const health = this.#health.of('mail');
    if (health.state === 'fails') return { done: false, now: health.why };
    return health.state === 'works'
      ? { done: true, now: 'the mail server takes messages' }
      : { done: false, now: 'not tried yet' };
  }

  #calendarName(): string {
    const { settings, calendars } = this.#of.stores;
    return calendars.byId(settings.workspace()?.calendarId ?? 0)?.name ?? 'no calendar';
  }

  #holidaysAhead(): number {
    const { stores, source, clock } = this.#of;
    const today = formatDay(source.facts.workspace.zone.dayOf(clock.now()));
    const calendar = stores.calendars.byId(stores.settings.workspace()?.calendarId ?? 0);
    return (
      calendar?.days.filter(({ date, intervals }) => date >= today && intervals.length === 0).length ?? 0
    );
  }
}
