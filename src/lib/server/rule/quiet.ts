import { CodedError } from '../../core/errors.ts';
import type { WhyStep } from '../../core/ring/why.ts';
import { formatZoned } from '../../core/time/instant.ts';
import { isLateBell } from '../../core/forecast/decide/settle.ts';
import { leadOf } from '../../core/forecast/facts/compile-rule.ts';
import type { Hush } from '../../core/forecast/facts/facts.ts';
import { MS_PER_DAY, parseDay } from '../../core/time/day.ts';
import type { Zone } from '../../core/time/zone.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Engine } from '../engine/engine.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** The longest hush. */
export const LONGEST_HUSH_DAYS = 90;
/** How often one notice is put off. */
const MOST_SNOOZES = 5;

/** What people quieten: a task, a project, a person or a rule for a while; reminders of one task for themselves; one notice until later. */
export class QuietService {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #engine: Engine;

  constructor(
    work: UnitOfWork,
    stores: Stores,
    committer: Committer,
    source: FactsSource,
    clock: WorkspaceClock,
    engine: Engine
  ) {
    this.#work = work;
    this.#stores = stores;
    this.#committer = committer;
    this.#source = source;
    this.#clock = clock;
    this.#engine = engine;
  }

  /**
   * Quietens something from now until the end of a day: what waits is withdrawn and never made up for.
   * @param until the last quiet day, in `zone`
   * @throws CodedError `hush-past`, `hush-too-long`, or that of what is not there
   */
  hush(actor: Actor, of: Pick<Hush, 'of' | 'id'>, until: string, zone: Zone, note = ''): Committed<number> {
    const now = this.#clock.now();
    const end = zone.endOfDay(parseDay(until));
    if (end <= now) throw new CodedError('hush-past', {}, 'until');
    if (end - now > (LONGEST_HUSH_DAYS + 1) * MS_PER_DAY)
      throw new CodedError('hush-too-long', { most: LONGEST_HUSH_DAYS }, 'until');
    const name = this.#nameOf(of);
    if (name === null) throw new CodedError(`${of.of}-gone`);
    return this.#committer.commit(actor, `Hushed: ${name}`, (writer) =>
      writer.insert('hush', {
        subject_kind: of.of,
        subject_id: of.id,
        from_at: now,
        until_at: end,
        by_id: actor.personId,
        note
      })
    );
  }

  /** The hush of a task. @throws CodedError `hush-gone` where it is of something else, too */
  unhushTask(actor: Actor, hushId: number, taskId: number): Committed<void> {
    const hush = this.#stores.hushes.byId(hushId);
    if (hush?.of !== 'task' || hush.id !== taskId) throw new CodedError('hush-gone');
    return this.unhush(actor, hushId);
  }

  /** Whether a hush is of somebody, and theirs to end: they made it themselves. */
  isOwnHush(hushId: number, personId: number): boolean {
    const hush = this.#stores.hushes.byId(hushId);
    return hush?.of === 'person' && hush.id === personId && hush.byId === personId;
  }

  /** Ends a hush now. @throws CodedError `hush-gone` */
  unhush(actor: Actor, hushId: number): Committed<void> {
    const hush = this.#stores.hushes.byId(hushId);
    const now = this.#clock.now();
    if (!hush || hush.until <= now) throw new CodedError('hush-gone');
    return this.#committer.commit(
      actor,
      `Hush ended: ${this.#nameOf(hush) ?? `a removed ${hush.of}`}`,
      (writer) => {
        if (hush.from >= now) writer.remove('hush', hushId);
        else writer.update('hush', hushId, { until_at: now });
      }
    );
  }

  /** Whether somebody wants reminders of a task. */
  setReminded(actor: Actor, taskId: number, personId: number, wants: boolean): Committed<void> {
    const known = this.#stores.hushes.silence(taskId, personId);
    const now = this.#clock.now();
    return this.#committer.commit(
      actor,
      wants ? 'Reminders turned on again' : 'Reminders turned off',
      (writer) => {
        if (!wants && !known)
          writer.insert('no_reminder', {
            task_id: taskId,
            person_id: personId,
            from_at: now,
            until_at: null
          });
        if (wants && known)
          if (known.from >= now) writer.remove('no_reminder', known.id);
          else writer.update('no_reminder', known.id, { until_at: now });
      }
    );
  }

  /**
   * Puts one notice off for whoever got it: it comes again at the moment, passes everything again, and stops no ladder.
   * @param at workspace clock
   * @returns when it leaves, and whether that is past the due moment
   * @throws CodedError `snooze-past`, `snooze-too-often` or `snooze-not-yours`
   */
  snooze(actor: Actor, noticeId: number, at: number): { leavesAt: number; pastDue: boolean } {
    const now = this.#clock.now();
    const notice = this.#stores.notices.byId(noticeId);
    const task = notice && this.#stores.tasks.factsOf(notice.taskId);
    const rule = notice && this.#source.live(notice.ruleId)?.facts;
    const tell = rule?.program.tells.get(notice!.stepId);
    const lead = leadOf(rule ?? undefined, task, notice?.leadId ?? '');
    if (!notice || !task || !rule || !tell || !lead || notice.state !== 'sent')
      throw new CodedError('rule-gone');
    if (notice.recipientId !== actor.personId && notice.readerId !== actor.personId)
      throw new CodedError('snooze-not-yours');
    if (at <= now) throw new CodedError('snooze-past', {}, 'at');
    if (notice.snooze >= MOST_SNOOZES) throw new CodedError('snooze-too-often', { most: MOST_SNOOZES });
    const { planner } = this.#source;
    const recipient = planner.facts.people.get(actor.personId)!;
    const why: WhyStep[] = [
      ...notice.why,
      { code: 'snoozed', params: { name: recipient.name, at: formatZoned(at, recipient.zone) } }
    ];
    const { at: leavesAt, readerId } = planner.leaves(tell, recipient, at, why);
    this.#work.run(() => {
      this.#stores.notices.add({
        ...notice,
        recipientId: recipient.id,
        readerId,
        snooze: notice.snooze + 1,
        state: 'held',
        reason: null,
        ringAt: at,
        leavesAt: Number.isNaN(leavesAt) ? at : leavesAt,
        lateBell: isLateBell(
          planner,
          { rule, tell, lead, task, recipient, ordinal: notice.ordinal },
          at,
          leavesAt
        ),
        why,
        endedAt: null
      });
      this.#stores.notices.act(notice.id, now);
      this.#stores.journal.add(now, this.#clock.machine.now(), 'snoozed', {
        noticeId,
        actorId: actor.personId,
        at
      });
    });
    this.#engine.wake();
    const dueAt = planner.dates.momentOf('due', task);
    return { leavesAt, pastDue: dueAt !== null && leavesAt >= dueAt };
  }

  /**
   * Takes a snooze back: the notice does not come again.
   * @param noticeId the one that was put off
   * @throws CodedError `snooze-gone` where it has come again, or was taken back
   */
  unsnooze(actor: Actor, noticeId: number, taskId: number): void {
    const now = this.#clock.now();
    const { notices, journal } = this.#stores;
    const notice = notices.byId(noticeId);
    const again = notice && notices.snoozeOf(notice, actor.personId ?? 0);
    if (!again || notice.taskId !== taskId) throw new CodedError('snooze-gone');
    this.#work.run(() => {
      notices.end(again, 'withdrawn', 'snooze taken back', now);
      notices.unact(noticeId);
      journal.add(now, this.#clock.machine.now(), 'snooze taken back', { noticeId, actorId: actor.personId });
    });
    this.#engine.wake();
  }

  /** What is kept quiet, in words; null where it is not there. */
  #nameOf({ of, id }: Pick<Hush, 'of' | 'id'>): string | null {
    const { tasks, projects, people, rules } = this.#stores;
    const named = { task: tasks, project: projects, person: people, rule: rules }[of].byId(id);
    return named && `${of} “${named.name}”`;
  }
}
