import { many } from '../../core/many.ts';
import { leadWords } from '../../core/rule/words/lead-words.ts';
import { CodedError } from '../../core/errors.ts';
import { groupBy } from '../../core/group-by.ts';
import { isAlreadyTold } from '../../core/forecast/decide/already-told.ts';
import { bundle } from '../../core/forecast/decide/bundle.ts';
import { leadOf, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import { ifPutOff, isLateBell } from '../../core/forecast/decide/settle.ts';
import { quietReason, quietWhy } from '../../core/forecast/decide/quiet.ts';
import type { Telling } from '../../core/forecast/plan/telling.ts';
import { limitsOf, outgoingOf } from '../../core/forecast/decide/day-limits.ts';
import { capped, unreachable } from '../../core/forecast/explain/explain.ts';
import { isReachable, type PersonFacts, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { ALREADY_TOLD_MS } from '../../core/forecast/decide/notice-kind.ts';
import { withoutOwn } from '../../core/forecast/decide/own-changes.ts';
import type { ToldBefore } from '../../core/forecast/simulate/simulated.ts';
import { capAndFold } from '../../core/ring/cap.ts';
import { compareForMerge } from '../../core/ring/merge.ts';
import type { WhyStep } from '../../core/ring/why.ts';
import { formatZoned } from '../../core/time/instant.ts';
import type { Stores } from '../store/all.ts';
import type { NoticeRecord } from '../store/notices.ts';
import type { FactsSource } from './facts-source.ts';
import { letWait } from './let-wait.ts';
import type { Ringer } from './ringer.ts';
import type { RuleFaults } from './rule-faults.ts';
import type { Words } from './words.ts';

/** Why held notices that open together are one message. */
export const HELD_WORDS = 'These notices waited for your working hours.';

/** One message about to leave, or notices about to be put off. */
export interface Departure {
  notices: readonly NoticeRecord[];
  leave: () => void;
}

/** A waiting notice with everything that it is of. */
interface Waiting {
  notice: NoticeRecord;
  rule: RuleFacts;
  task: TaskFacts;
  dueAt: number;
  order: number;
}

/** Turns notices into messages when their leaving instant has come. Everything here runs inside the tick's transaction. */
export class Leaving {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #ringer: Ringer;
  readonly #words: Words;
  readonly #faults: RuleFaults;

  constructor(stores: Stores, source: FactsSource, ringer: Ringer, words: Words, faults: RuleFaults) {
    this.#faults = faults;
    this.#stores = stores;
    this.#source = source;
    this.#ringer = ringer;
    this.#words = words;
  }

  /**
   * Those of one rule, Tell, task and recipient become one, Watch and Stop are tested again, what another rule has said is not said again,
   * and step 8 says which messages each reader gets. `leave` computes the words of one and queues it, or puts its notices off.
   * @param leaving waiting notices of one leaving instant
   */
  outgoing(leaving: readonly NoticeRecord[], now: number): Departure[] {
    const ready = this.#inOrder(leaving, now);
    const byTask = groupBy(ready, ({ task }) => task.id);
    const kept = ready.filter(
      (one) => this.#isKept(one, byTask.get(one.task.id)!, now) && this.#isToBeSent(one, now)
    );
    const places = new Map(kept.map(({ notice }, place) => [notice, place]));
    const together = this.#together(kept);
    const gathered = new Set(together.flatMap(({ notices }) => notices));
    const alone = kept.filter(({ notice }) => !gathered.has(notice));
    const byReader = groupBy(alone, ({ notice }) => `${notice.readerId}/${notice.leavesAt}`);
    return [...together, ...[...byReader.values()].flatMap((notices) => this.#departures(notices))].sort(
      (a, b) => places.get(a.notices[0]!)! - places.get(b.notices[0]!)!
    );
  }

  /** What was put off until a digest of its reader: it stands in that, and does not leave besides. What is not true any more ends here. */
  kept(readerId: number, at: number, now: number): NoticeRecord[] {
    const waiting = this.#inOrder(this.#stores.notices.foldedOf(readerId, at), now);
    return waiting.filter((one) => this.#isToBeSent(one, now)).map(({ notice }) => notice);
  }

  /** In the order of an instant: rule order, rule id, due moment, task id, the lead's place. What is of nothing any more ends here. */
  #inOrder(leaving: readonly NoticeRecord[], now: number): Waiting[] {
    const found = leaving.flatMap((notice): Waiting[] => {
      const rule = this.#ruleOf(notice);
      const task = this.#stores.tasks.factsOf(notice.taskId);
      const lead = leadOf(rule ?? undefined, task, notice.leadId);
      if (!rule || !task || !lead || !rule.program.tells.has(notice.stepId)) {
        this.#unring(notice, 'no longer true', now);
        return [];
      }
      const dueAt = this.#source.planner.dates.momentOf('due', task) ?? Number.MAX_SAFE_INTEGER;
      return [{ notice, rule, task, dueAt, order: lead.order }];
    });
    return found.sort(
      (a, b) =>
        a.notice.leavesAt! - b.notice.leavesAt! ||
        a.rule.position - b.rule.position ||
        a.rule.id - b.rule.id ||
        a.dueAt - b.dueAt ||
        a.task.id - b.task.id ||
        a.order - b.order ||
        a.notice.id - b.notice.id
    );
  }

  /** A run keeps the version of the rule that it started with; a rule that is off says nothing. */
  #ruleOf(notice: NoticeRecord): RuleFacts | null {
    const live = this.#source.live(notice.ruleId);
    if (!live || live.facts.ofTask) return live?.facts ?? null;
    const run = this.#stores.runs.ofRing(notice.ringId);
    return run ? this.#source.ruleOfVersion(notice.ruleId, run.versionId) : live.facts;
  }

  /** Step 7: of those that end at the same instant one is sent. What was put off was told apart before it was. */
  #isKept(one: Waiting, ofTask: readonly Waiting[], now: number): boolean {
    const { notice } = one;
    if (notice.state === 'folded') return true;
    const better = ofTask.find(
      (other) =>
        other !== one &&
        other.notice.state !== 'folded' &&
        other.notice.leavesAt === notice.leavesAt &&
        other.notice.ruleId === notice.ruleId &&
        other.notice.stepId === notice.stepId &&
        other.notice.recipientId === notice.recipientId &&
        other.notice.snooze === notice.snooze &&
        compareForMerge({ ...other.notice, leadOrder: other.order }, { ...notice, leadOrder: one.order }) > 0
    );
    // Of two of one moment the other may have left: a clock that was put back meets again the one that was not sent.
    const left = better ? null : this.#stores.tellings.beside(notice);
    if (!better && left === null) return true;
    const lead = leadOf(one.rule, one.task, better?.notice.leadId ?? left!);
    this.#unring(notice, 'same moment', now, [
      { code: 'same-moment', params: { kept: lead ? leadWords(lead.lead) : 'a later one' } }
    ]);
    return false;
  }

  /** Whether a notice is still to be sent. One that cannot be tested is not, and keeps no other waiting. */
  #isToBeSent(one: Waiting, now: number): boolean {
    try {
      return this.#isStillTrue(one, now);
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      this.#faults.note(one.rule.id, one.task.id, 'ringing', error, now);
      return this.#unring(one.notice, 'faulty', now, [
        { code: 'faulty', params: { message: error.message } }
      ]);
    }
  }

  /** Whether a notice is still true; one that is not ends here. */
  #isStillTrue({ notice, rule, task }: Waiting, now: number): boolean {
    const { planner } = this.#source;
    const reader = planner.facts.people.get(notice.readerId);
    const recipient = planner.facts.people.get(notice.recipientId);
    const run = this.#stores.runs.ofRing(notice.ringId);
    if (!reader || !recipient) return this.#unring(notice, 'no longer true', now);
    if (!run?.regardless && notice.snooze === 0) {
      const seen = withoutOwn(task, planner.facts.detailsOf(task.id), run?.own ?? []);
      const details = run && run.own.length > 0 ? seen.details : null;
      const isWatched =
        planner.watches(rule, seen.task, now, details) && !planner.stopped(rule, seen.task, now, details);
      if (!isWatched) return this.#unring(notice, 'no longer true', now);
    }
    if (!isReachable(reader)) return this.#unring(notice, 'never reachable', now, [unreachable(reader)]);
    const lead = leadOf(rule, task, notice.leadId)!;
    // A snooze is one's own: no ladder stops it.
    const still = notice.snooze === 0 ? planner.ladders.stillAt(lead, task, now) : null;
    if (still?.why === 'waits for others') {
      letWait(this.#stores.notices, notice);
      return false;
    }
    if (still)
      return this.#unring(notice, 'no longer true', now, [
        { code: 'ladder-still', params: { why: still.why } }
      ]);
    const telling = { rule, tell: rule.program.tells.get(notice.stepId)!, lead, task, recipient };
    const quiet = notice.snooze === 0 ? quietReason(planner, telling, now) : null;
    if (quiet) return this.#unring(notice, quiet, now, [quietWhy(planner, telling, quiet, now)]);
    const most = this.#ringer.enough({ rule, lead, task, recipient, anchorValue: notice.anchorValue });
    if (most !== null)
      return this.#unring(notice, 'limit reached', now, [{ code: 'enough', params: { most } }]);
    return this.#isNews(notice, reader, now);
  }

  /** What another rule said within the hour is not said again; that one is named. */
  #isNews(notice: NoticeRecord, reader: PersonFacts, now: number): boolean {
    if (notice.state === 'folded' || notice.snooze > 0) return true;
    const told = this.#stores.tellings.since(notice.taskId, notice.leavesAt! - ALREADY_TOLD_MS);
    const first = told.find((one) => isAlreadyTold(tellingOf(notice), one));
    if (!first) return true;
    const rule = this.#stores.rules.byId(first.ruleId)?.name ?? '';
    const params = { rule, name: reader.name, at: formatZoned(first.leavesAt, reader.zone) };
    return this.#unring(notice, 'already told', now, [{ code: 'already-told', params }]);
  }

  /** One to all recipients together: no part of anybody's day, and no part of anybody's own message. */
  #together(kept: readonly Waiting[]): Departure[] {
    const groups = groupBy(
      kept.filter(
        ({ notice, rule }) =>
          rule.program.tells.get(notice.stepId)!.step.gather === 'together' && notice.state !== 'folded'
      ),
      ({ notice, rule }) => `${rule.id}/${notice.stepId}/${notice.leavesAt}`
    );
    return [...groups.values()].map((ones) => {
      const notices = ones.map(({ notice }) => notice);
      return { notices, leave: () => this.#words.sendToAll(notices) };
    });
  }

  /** The messages of one reader at one instant: what was put off before goes first, together. */
  #departures(waiting: readonly Waiting[]): Departure[] {
    const reader = this.#source.facts.people.get(waiting[0]!.notice.readerId)!;
    const leavesAt = waiting[0]!.notice.leavesAt!;
    const folded = waiting.filter(({ notice }) => notice.state === 'folded').map(({ notice }) => notice);
    const messages = bundle(
      waiting
        .filter(({ notice }) => notice.state !== 'folded')
        .map((one) => ({
          ...tellingOf(one.notice),
          stepId: one.notice.stepId,
          taskId: one.notice.taskId,
          recipientId: one.notice.recipientId,
          gather: one.rule.program.tells.get(one.notice.stepId)!.step.gather,
          one
        }))
    ).map((message) => message.map(({ one }) => one));
    const day = reader.zone.dayOf(leavesAt);
    const sent =
      this.#stores.outbox.sentTo(reader.id, reader.zone.startOfDay(day), reader.zone.endOfDay(day)) +
      (folded.length > 0 ? 1 : 0);
    const outgoing = messages.map(([first], i) => {
      const { notice, rule, task, dueAt } = first!;
      const due = dueAt === Number.MAX_SAFE_INTEGER ? null : dueAt;
      return outgoingOf(i, { ...notice, leavesAt }, rule, task, due);
    });
    const departures = capAndFold(outgoing, limitsOf(reader, new Map([[day, sent]]))).flatMap(
      ({ at, how, ids }): Departure[] => {
        const own = ids.map((i) => messages[i]!.map(({ notice }) => notice));
        const send = (notices: NoticeRecord[]) => ({
          notices,
          leave: () => this.#words.send(notices, reader)
        });
        if (at > leavesAt) {
          // What rings anyway leaves by itself; the rest is put off.
          const [anyway, late] = partition(own, (notices) => this.#leavesAnyway(notices, at));
          const notices = late.flat();
          const putOff = { notices, leave: () => this.#putOff(notices, reader, at) };
          return [...anyway.map(send), ...(notices.length > 0 ? [putOff] : [])];
        }
        const notices = own.flat();
        if (how !== 'gathered' || own.length === 1) return [send(notices)];
        return [{ notices, leave: () => this.#words.sendGathered(notices, reader, HELD_WORDS) }];
      }
    );
    if (folded.length === 0) return departures;
    const words = this.#foldedWords(folded, reader);
    return [{ notices: folded, leave: () => this.#words.sendGathered(folded, reader, words) }, ...departures];
  }

  #foldedWords(folded: readonly NoticeRecord[], reader: PersonFacts): string {
    return foldedWords(
      reader,
      folded.some(({ why }) => why.some(({ code }) => code === 'capped'))
    );
  }

  /** Step 9 for what would be put off: its rule rings what would be late all the same. */
  #leavesAnyway(notices: readonly NoticeRecord[], at: number): boolean {
    return notices.some((notice) => this.#ifPutOff(notice, at) === 'leaves now');
  }

  #ifPutOff(notice: NoticeRecord, at: number): ReturnType<typeof ifPutOff> {
    const of = this.#tellingOf(notice);
    return of ? ifPutOff(this.#source.planner, of, notice.ringAt, at) : 'waits';
  }

  /** What a waiting notice tells whom; null where what it tells of is gone. */
  #tellingOf(notice: NoticeRecord): Telling | null {
    const rule = this.#ruleOf(notice);
    const task = this.#stores.tasks.factsOf(notice.taskId);
    const lead = leadOf(rule ?? undefined, task, notice.leadId);
    const tell = rule?.program.tells.get(notice.stepId);
    const recipient = this.#source.facts.people.get(notice.recipientId);
    if (!rule || !task || !lead || !tell || !recipient) return null;
    return { rule, tell, lead, task, recipient, ordinal: notice.ordinal };
  }

  /** Above the day's most, or told to wait: kept for the next opening, where it leaves together with the others. */
  #putOff(notices: readonly NoticeRecord[], reader: PersonFacts, at: number): void {
    const { planner } = this.#source;
    for (const notice of notices) {
      const of = this.#tellingOf(notice);
      if (of && this.#ifPutOff(notice, at) === 'is dropped') {
        const params = { useBy: formatZoned(planner.anchorUseBy(of.lead, of.task), reader.zone) };
        this.#unring(notice, 'too late', notice.leavesAt!, [{ code: 'late-not-rung', params }]);
        continue;
      }
      const folds = of?.tell.step.fold;
      const put: WhyStep = folds
        ? { code: 'folded', params: { name: reader.name, to: formatZoned(at, reader.zone) } }
        : capped(reader, notice.leavesAt!, at);
      const why: WhyStep[] = [...notice.why, put];
      const lateBell = of ? isLateBell(planner, of, notice.ringAt, at, why) : notice.lateBell;
      this.#stores.notices.move(notice.id, {
        leavesAt: at,
        readerId: reader.id,
        state: 'folded',
        lateBell,
        why
      });
    }
  }

  /** @returns false, for whoever asks whether it is sent */
  #unring(notice: NoticeRecord, reason: string, now: number, added: WhyStep[] = []): false {
    this.#stores.notices.end(notice, 'unrung', reason, now, [...notice.why, ...added]);
    return false;
  }
}

/** Why what was put off comes together. */
export function foldedWords(reader: PersonFacts, isCapped: boolean): string {
  return isCapped
    ? `Your limit of ${many(reader.dailyCap ?? 0, 'message')} a day was reached. The rest is in this message.`
    : 'These notices were kept for one message.';
}

function tellingOf(notice: NoticeRecord): ToldBefore {
  const { readerId, ruleId, kind, forced } = notice;
  return { leavesAt: notice.leavesAt!, readerId, ruleId, kind, forced };
}

/** Those for which something holds, and the others, each in their order. */
function partition<T>(all: readonly T[], holds: (one: T) => boolean): [T[], T[]] {
  const [yes, no]: [T[], T[]] = [[], []];
  for (const one of all) (holds(one) ? yes : no).push(one);
  return [yes, no];
}
