import { compareForMerge } from '../../ring/merge.ts';
import { leadHolds } from '../facts/lead-filter.ts';
import type { CompiledTell } from '../../rule/program.ts';
import type { InstantMs } from '../../time/zone.ts';
import { isAlreadyTold } from '../decide/already-told.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { leadOf, type RuleFacts } from '../facts/compile-rule.ts';
import { isReachable, type PersonFacts, type TaskFacts } from '../facts/facts.ts';
import type { ForecastAsked, ForecastHistory, ForecastWindow } from './model.ts';
import { ALREADY_TOLD_MS, noticeKind } from '../decide/notice-kind.ts';
import type { NoticeList } from './notice-list.ts';
import type { Planner } from '../plan/planner.ts';
import type { PlannedNotice } from '../plan/planned-notice.ts';
import type { Scope } from '../facts/scopes.ts';
import { afterOwner } from '../decide/owner-first.ts';
import { quietReason } from '../decide/quiet.ts';
import { isLateBell, settle } from '../decide/settle.ts';
import type { Telling } from '../plan/telling.ts';
import { Twins } from './twins.ts';

const NONE: readonly PlannedNotice[] = [];

/**
 * The rings of rules that only tell, of one task at a time, without going through time: nothing that they do changes anything. What hangs
 * on more than the task (a reader's most of messages) is not decided here: such a task is given back, to be gone through in time.
 */
export class PlainRules {
  readonly #planner: Planner;
  readonly #window: ForecastWindow;
  readonly #history: ForecastHistory;
  readonly #notices: NoticeList;
  readonly #onFault: (ruleId: number, taskId: number, error: unknown) => void;
  readonly #twins: Twins;
  /** Whether something of the task in hand could not be computed. */
  #faulty = false;
  readonly #scratch = blankNotice();
  /** Filled again for each notice, so that a forecast of a million makes no garbage. */
  readonly #of = { ordinal: 0 } as Telling;
  readonly #meeting: number[] = [];
  readonly #ruleById: ReadonlyMap<number, RuleFacts>;
  pastRings = 0;
  /** Whether anybody has a most of messages a day: mostly nobody has, and then nobody is looked up. */
  readonly #anyCap: boolean;

  constructor(planner: Planner, { rules, window, history, onFault }: ForecastAsked, notices: NoticeList) {
    this.#planner = planner;
    this.#ruleById = new Map(rules.map((rule) => [rule.id, rule]));
    this.#window = window;
    this.#history = history;
    this.#notices = notices;
    this.#onFault = (ruleId, taskId, error) => {
      this.#faulty = true;
      onFault(ruleId, taskId, error);
    };
    this.#twins = new Twins(planner.facts, rules, history);
    this.#anyCap = [...planner.facts.people.values()].some(({ dailyCap }) => dailyCap !== null);
  }

  /**
   * @param held by rule: notices of this task whose ring instant has passed and that have not left
   * @returns false when the task must be gone through in time; nothing is kept of it then
   */
  take(task: TaskFacts, scope: Scope, held: ReadonlyMap<number, readonly PlannedNotice[]>): boolean {
    const signature = held.size > 0 ? NaN : this.#twins.signatureOf(task, scope);
    const mayHaveTwin = !Number.isNaN(signature);
    const twin = mayHaveTwin ? this.#twins.find(task, signature) : undefined;
    if (twin) {
      this.#notices.copy(twin.from, twin.until, task.id);
      this.pastRings += twin.pastRings;
      return true;
    }
    const from = this.#notices.length;
    const past = this.pastRings;
    this.#faulty = false;
    const settled = this.#takeEach(task, scope.rules, held);
    if (settled && mayHaveTwin && !this.#faulty) {
      const pastRings = this.pastRings - past;
      this.#twins.remember({ task, signature, from, until: this.#notices.length, pastRings });
    }
    return settled;
  }

  #takeEach(
    task: TaskFacts,
    rules: readonly RuleFacts[],
    held: ReadonlyMap<number, readonly PlannedNotice[]>
  ): boolean {
    const before = this.#notices.length;
    const past = this.pastRings;
    for (const rule of rules) this.#planRule(rule, task, held.get(rule.id) ?? NONE);
    const added = this.#notices.length - before;
    if (added === 0) return true;
    if (this.#anyCap && this.#meetsCap(before)) {
      this.#notices.truncate(before);
      this.pastRings = past;
      return false;
    }
    if (added > 1) this.#settleAlreadyTold(task, before);
    this.#selectWindow(before);
    return true;
  }

  #meetsCap(from: number): boolean {
    for (let i = from; i < this.#notices.length; i++) {
      const { readerId, unrung } = this.#notices.toldAt(i);
      if (!unrung && this.#planner.facts.people.get(readerId)?.dailyCap != null) return true;
    }
    return false;
  }

  /** A rule that cannot be planned for a task promises nothing for it; what rang before then leaves all the same. */
  #planRule(rule: RuleFacts, task: TaskFacts, waiting: readonly PlannedNotice[]): void {
    const before = this.#notices.length;
    const past = this.pastRings;
    try {
      for (const tell of rule.program.leading) this.#plan(rule, tell, task, waiting);
    } catch (error) {
      this.#notices.truncate(before);
      this.pastRings = past;
      for (const notice of waiting) this.#push({ ...notice });
      this.#onFault(rule.id, task.id, error);
    }
  }

  #plan(rule: RuleFacts, tell: CompiledTell, task: TaskFacts, waiting: readonly PlannedNotice[]): void {
    const recipients = this.#planner.audience.recipients(rule, tell, task);
    const mine = waiting.length === 0 ? NONE : waiting.filter(({ stepId }) => stepId === tell.step.id);
    if (recipients.length === 1 && mine.length === 0) {
      this.#planFor(rule, tell, task, recipients[0]!, NONE);
    } else if (recipients.length > 0 || mine.length > 0) {
      const told = [...recipients];
      for (const recipient of told)
        this.#planFor(
          rule,
          tell,
          task,
          recipient,
          mine.filter(({ recipientId }) => recipientId === recipient.id)
        );
      for (const other of mine)
        if (!told.some(({ id }) => id === other.recipientId)) this.#push({ ...other });
    }
  }

  #planFor(
    rule: RuleFacts,
    tell: CompiledTell,
    task: TaskFacts,
    recipient: PersonFacts,
    held: readonly PlannedNotice[]
  ): void {
    const leads = this.#planner.audience.leadsFor(rule, tell, task, recipient);
    this.#aim(rule, tell, task, recipient);
    if (held.length === 0 && leads.length === 1) {
      const notice = this.#noticeOf(leads[0]!, -Infinity, this.#window.until, held);
      if (notice) this.#push(notice);
      return;
    }
    const { until } = this.#window;
    const found: PlannedNotice[] = held.map((notice) => ({ ...notice }));
    const collect = (after: InstantMs, to: InstantMs) => {
      for (const lead of leads) {
        const notice = this.#noticeOf(lead, after, to, held);
        if (notice) found.push({ ...notice });
      }
    };
    collect(-Infinity, until);
    if (found.length === 0) return;
    // Which rings are merged is decided among all rings of the task: one after the window may leave together with one that
    // is held past the window, which is then unrung inside it. So the window is applied last.
    let last = until;
    for (const { leavesAt } of found) if (leavesAt > last) last = leavesAt;
    if (last > until) collect(until, last);
    if (found.length > 1) {
      mergeSameMoment(found);
      found.sort((a, b) => a.leadOrder - b.leadOrder);
    }
    for (const one of found) this.#push(one);
  }

  /**
   * The notice of a lead whose ring instant lies in `(after, until]`, if it rings then. Shared: read it before the next call.
   * @throws CodedError where its ring cannot be computed; what cannot be tested once it rings is a fault of that ring alone
   */
  #noticeOf(
    lead: CompiledLead,
    after: InstantMs,
    until: InstantMs,
    held: readonly PlannedNotice[]
  ): PlannedNotice | null {
    const planner = this.#planner;
    const of = this.#of;
    const { rule, task, recipient } = of;
    of.lead = lead;
    if (lead.lead.only && !leadHolds(lead, task, planner.facts)) return null;
    const { instant, originDay } = planner.ring(lead, task, recipient);
    if (!(instant > after && instant <= until)) return null;
    if (instant <= this.#window.now) {
      if (!held.some((notice) => notice.leadId === lead.lead.id)) this.pastRings++;
      return null;
    }
    if (this.#isTold(of)) return null;
    try {
      return this.#rung(of, instant, originDay);
    } catch (error) {
      // Said once, though the rings after the window may be asked for too.
      if (after === -Infinity) this.#onFault(rule.id, task.id, error);
      return null;
    }
  }

  /** Whether it has left already, or is on its way. */
  #isTold({ rule, tell, lead, task, recipient, ordinal }: Telling): boolean {
    const { occupied } = this.#history;
    if (!occupied) return false;
    return occupied(rule, task, { lead, ordinal, stepId: tell.step.id, recipientId: recipient.id });
  }

  /** What is filled again for each notice is of these from now on. */
  #aim(rule: RuleFacts, tell: CompiledTell, task: TaskFacts, recipient: PersonFacts): void {
    const of = this.#of;
    of.rule = rule;
    of.tell = tell;
    of.task = task;
    of.recipient = recipient;
  }

  /** What becomes of a ring: null where its rule does not look at the task then. */
  #rung(of: Telling, ringAt: InstantMs, originDay: number): PlannedNotice | null {
    const planner = this.#planner;
    const { rule, task } = of;
    const { condition, from, until: lastDay } = rule.stop;
    const mayBeQuiet = task.acknowledged || task.phase === 'stuck on others';
    const asks = mayBeQuiet || rule.watch.asks || condition !== null || from !== null || lastDay !== null;
    if (asks && (!planner.watches(rule, task, ringAt) || planner.stopped(rule, task, ringAt))) return null;
    const notice = fillNotice(this.#scratch, planner, of, ringAt, originDay);
    if (asks && notice.unrung === null) {
      const at = notice.leavesAt;
      notice.unrung =
        !planner.watches(rule, task, at) || planner.stopped(rule, task, at)
          ? 'no longer true'
          : quietReason(planner, of, at);
    }
    return notice;
  }

  #push(notice: PlannedNotice): void {
    this.#notices.push(notice);
  }

  /** Two rules that tell one reader the same of a task within the hour: the second is unrung. */
  #settleAlreadyTold(task: TaskFacts, from: number): void {
    const list = this.#notices;
    const end = list.length;
    // Whatever meets no other swallows nothing and is swallowed by nothing.
    const meeting = this.#meeting;
    meeting.length = 0;
    for (let i = from; i < end; i++)
      for (let j = from; j < end; j++)
        if (list.meet(i, j, ALREADY_TOLD_MS)) {
          meeting.push(i);
          break;
        }
    if (meeting.length === 0) return;
    const tellings = meeting
      .map((i) => {
        const { leavesAt, readerId, ruleId, stepId, leadId, folded, unrung } = list.at(i);
        const rule = this.#ruleById.get(ruleId)!;
        const tell = rule.program.tells.get(stepId);
        const lead = leadOf(rule, task, leadId);
        return {
          ...{ i, leavesAt, readerId, ruleId, folded, unrung },
          kind: tell && lead ? noticeKind(tell, lead) : ('reminder' as const),
          forced: (tell?.step.force ?? null) !== null
        };
      })
      .filter(({ unrung }) => unrung === null)
      .sort((a, b) => a.leavesAt - b.leavesAt || a.i - b.i);
    const left: typeof tellings = [];
    for (const telling of tellings) {
      if (!telling.folded && left.some((one) => isAlreadyTold(telling, one)))
        list.unring(telling.i, 'already told');
      else left.push(telling);
    }
  }

  /** The window selects in the end. */
  #selectWindow(from: number): void {
    const { from: after, until } = this.#window;
    let outside = false;
    for (let i = from; i < this.#notices.length && !outside; i++) {
      const at = this.#notices.standsAt(i);
      outside = !(at > after && at <= until);
    }
    if (!outside) return;
    const kept = Array.from({ length: this.#notices.length - from }, (_, k) =>
      this.#notices.at(from + k)
    ).filter((notice) => shownAt(notice) > after && shownAt(notice) <= until);
    this.#notices.truncate(from);
    for (const notice of kept) this.#notices.push(notice);
  }
}

/** A notice to be filled. Its instants are fractions from the start, so that filling it again makes no garbage. */
export function blankNotice(): PlannedNotice {
  return {
    ruleId: 0,
    leadId: '',
    leadOrder: 0,
    ordinal: 0,
    stepId: '',
    taskId: 0,
    recipientId: 0,
    readerId: 0,
    ringAt: NaN,
    leavesAt: NaN,
    originDay: 0,
    lateBell: false,
    folded: false,
    unrung: null,
    noticeId: null,
    ifActs: null
  };
}

/** Fills a notice that rings at an instant: steps 5, 6 and 9, and what keeps it quiet. */
export function fillNotice(
  out: PlannedNotice,
  planner: Planner,
  of: Telling,
  ringAt: InstantMs,
  originDay: number
): PlannedNotice {
  const { rule, tell, lead, task, recipient, ordinal } = of;
  const from = rule.ordered ? afterOwner(planner, of, ringAt, ringAt) : ringAt;
  // A rule that keeps what is late, as nearly all do, needs nothing of step 9 but the mark: no object is made for it.
  const settled = rule.ifLate === 'keep' ? null : settle(planner, of, ringAt, from);
  const { at: leavesAt, readerId } = settled ?? planner.leaves(tell, recipient, from);
  const unreachable = Number.isNaN(leavesAt) || !isReachable(recipient);
  out.ruleId = rule.id;
  out.leadId = lead.lead.id;
  out.leadOrder = lead.order;
  out.ordinal = ordinal;
  out.stepId = tell.step.id;
  out.taskId = task.id;
  out.recipientId = recipient.id;
  out.readerId = readerId;
  out.ringAt = ringAt;
  out.leavesAt = leavesAt;
  out.originDay = originDay;
  out.lateBell = !unreachable && (settled ? settled.lateBell : isLateBell(planner, of, ringAt, leavesAt));
  out.folded = false;
  out.unrung = planner.isHushed(rule, tell, task, recipient, ringAt)
    ? 'hushed'
    : (quietReason(planner, of, ringAt) ??
      (unreachable ? 'never reachable' : settled?.dropped ? 'too late' : null));
  return out;
}

/** Step 7 over the rings of one rule, Tell and task: of those for one recipient that end at the same instant one is sent. */
export function mergeSameMoment(notices: readonly PlannedNotice[]): void {
  for (const one of notices) {
    if (one.unrung !== null) continue;
    const beaten = notices.some(
      (other) =>
        other !== one &&
        other.unrung === null &&
        other.recipientId === one.recipientId &&
        other.stepId === one.stepId &&
        other.leavesAt === one.leavesAt &&
        compareForMerge(other, one) > 0
    );
    if (beaten) one.unrung = 'same moment';
  }
}

/** Where a notice stands in time: when it leaves, or, unrung, when it would have rung. */
export function shownAt(notice: PlannedNotice): InstantMs {
  return notice.unrung === null ? notice.leavesAt : notice.ringAt;
}
