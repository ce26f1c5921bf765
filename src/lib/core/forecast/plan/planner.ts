import { anchorValue } from '../../delivery/keys.ts';
import { NO_LEAVE } from '../../calendar/leave.ts';
import { isStoodInFor } from '../../ring/away.ts';
import { ANY_TIME, holdUntilReach, type Reach } from '../../ring/hold.ts';
import { isLateBell, canBeLate } from '../../ring/late.ts';
import { isDayLevel, type LeadTiming } from '../../ring/lead.ts';
import { dueMoment, startMoment, useByOfAnchor } from '../../ring/moments.ts';
import { leaving } from '../../ring/leaving.ts';
import type { RingContext } from '../../ring/ring-context.ts';
import { ringInstant, type RingInstant } from '../../ring/ring-instant.ts';
import type { Trace } from '../../ring/why.ts';
import type { CompiledTell } from '../../rule/program.ts';
import { inScope } from '../../rule/watch.ts';
import type { TaskDetails } from '../../task/details.ts';
import { MS_PER_DAY } from '../../time/day.ts';
import { formatInstant, formatZoned, instantOnWall, type Moment } from '../../time/instant.ts';
import type { InstantMs, Zone } from '../../time/zone.ts';
import { ANCHORS } from '../../anchor/anchors.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import { repeats, type RuleFacts } from '../facts/compile-rule.ts';
import { isSilent, type Facts, type PersonFacts, type TaskFacts } from '../facts/facts.ts';
import { Readers, type PersonReader } from './readers.ts';
import { Ladders } from './ladders.ts';
import { NONE_BEFORE, type LevelBefore } from '../../ladder/rung.ts';
import { Audience } from './audience.ts';
import { FIRST, repeatOf, shiftOf, type Repeat } from './repeat.ts';
import { LeadAnchors } from './lead-anchors.ts';
import { RingClocks } from './ring-clocks.ts';
import { aroundNow } from './series.ts';
import { TaskDates } from '../facts/task-dates.ts';
import type { Telling, TellingKey } from './telling.ts';
import { Subject, type RingsSoFar } from './subject.ts';
import { folded } from '../../rule/compile-condition.ts';

/** What has happened already, where rings depend on it. */
export interface PlannerHistory {
  ringsSoFar: RingsSoFar;
  /** When the last notice of a lead left for a task in its round; null when none has. */
  lastLeft: (ruleId: number, leadId: string, taskId: number) => InstantMs | null;
  /** Whether a notice of this key has left or is on its way. */
  hasTold: (rule: RuleFacts, task: TaskFacts, key: TellingKey) => boolean;
}

export const NO_HISTORY: PlannerHistory = {
  ringsSoFar: () => 0,
  lastLeft: () => null,
  hasTold: () => false
};

/**
 * Computes for one task at a time who is told and when, from the facts of a workspace. It keeps its scratch objects,
 * so that planning a hundred thousand tasks makes no garbage.
 */
export class Planner {
  readonly facts: Facts;
  readonly history: PlannerHistory;
  readonly #context: RingContext;
  readonly #out: RingInstant = { instant: NaN, originDay: 0 };
  readonly #readers: Readers;
  readonly #leaves: Leaves = { readerId: 0, at: NaN };
  readonly #subject: Subject;
  /** Which instants the dates of tasks mean. */
  readonly dates: TaskDates;
  /** Whom its rules tell. */
  readonly audience: Audience;
  /** The clocks of ladders. */
  readonly ladders: Ladders;
  /** What leads are counted from. */
  readonly anchors: LeadAnchors;
  /** Where they ring. */
  readonly clocks: RingClocks;

  constructor(facts: Facts, history: PlannerHistory = NO_HISTORY) {
    this.facts = facts;
    this.history = history;
    this.#readers = new Readers(facts);
    this.dates = new TaskDates(facts);
    this.audience = new Audience(facts, this.dates);
    this.anchors = new LeadAnchors(facts, this.dates, history.lastLeft);
    this.clocks = new RingClocks(facts, this.dates);
    this.#subject = new Subject(facts, this.dates, history.ringsSoFar);
    this.ladders = new Ladders(facts, this.dates);
    const { zone, calendar, endOfDay, noticeMinute } = facts.workspace;
    this.#context = {
      kind: 'due',
      zone,
      anchorZone: zone,
      calendar,
      dueCalendar: calendar,
      endOfDay,
      noticeMinute
    };
  }

  /** The task at an instant, for conditions. Shared: ask before the next call. */
  subject(task: TaskFacts, at: InstantMs, ruleId: number, details: TaskDetails | null = null): Subject {
    return this.#subject.set(task, at, ruleId, details);
  }

  /**
   * Whether a rule looks at a task at an instant: scope, tags and condition.
   * @param details what is asked instead of what the task has now
   */
  watches(
    { watch, id }: Pick<RuleFacts, 'watch' | 'id'>,
    task: TaskFacts,
    at: InstantMs,
    details: TaskDetails | null = null
  ): boolean {
    if (!inScope(watch, task)) return false;
    if (!watch.asks) return true;
    const subject = this.subject(task, at, id, details);
    if (watch.tags && !subject.details.tags.some((tag) => watch.tags!.has(folded(tag)))) return false;
    return watch.condition === null || watch.condition.holds(subject);
  }

  /** Whether a rule has come to its end for a task: its stop condition holds, or its last day is over. */
  stopped(
    { stop, id }: RuleFacts,
    task: TaskFacts,
    at: InstantMs,
    details: TaskDetails | null = null
  ): boolean {
    const { zone } = this.facts.workspace;
    if (stop.until !== null && zone.dayOf(at) > stop.until) return true;
    if (stop.from !== null && at < instantOnWall(stop.from.day, stop.from.minute, zone)) return true;
    return stop.condition !== null && stop.condition.holds(this.subject(task, at, id, details));
  }

  /** Whether nothing of a rule is done to a task: it, its project or the rule is hushed. */
  isQuiet({ id }: RuleFacts, task: TaskFacts, at: InstantMs): boolean {
    const named = { task: task.id, project: task.projectId, person: null, rule: id };
    return (
      this.facts.hushes?.some((hush) => named[hush.of] === hush.id && hush.from <= at && at < hush.until) ??
      false
    );
  }

  /** Who is asked about a task: whoever acted, else its owner; null when there is neither. */
  asked(task: TaskFacts, actorId: number | null): PersonFacts | null {
    const id = actorId ?? task.ownerId;
    return id === null ? null : (this.facts.people.get(id) ?? null);
  }

  /** Whether what would be told is quietened: by a hush of its task, project, rule or recipient, or by a choice of the recipient's own. */
  isHushed(
    { id }: RuleFacts,
    tell: CompiledTell,
    task: TaskFacts,
    recipient: PersonFacts,
    at: InstantMs
  ): boolean {
    if (tell.step.force !== 'must' && isSilent(task, recipient.id, at)) return true;
    const { hushes } = this.facts;
    if (hushes === null) return false;
    const named = { task: task.id, project: task.projectId, person: recipient.id, rule: id };
    return hushes.some((hush) => named[hush.of] === hush.id && hush.from <= at && at < hush.until);
  }

  /**
   * Steps 1 to 4: the ring instant of a lead for a task and a recipient. The result is shared: read it before the next call.
   * `instant` is NaN when the task lacks the anchor or the closed-day rule skips it.
   * @param recipient on whose clock it rings where the lead says so; null: the owner's, as for acts
   * @param k which repeat; 0 is the first ring
   * @throws CodedError `no-working-time` or `date-out-of-range`
   */
  ring(
    lead: CompiledLead,
    task: TaskFacts,
    recipient: PersonFacts | null,
    trace: Trace = null,
    k = 0
  ): Readonly<RingInstant> {
    if (lead.rung) return this.#rungRing(lead, task, recipient, trace, k);
    return this.#counted(lead, lead.timing, task, recipient, repeatOf(k, trace));
  }

  /** A rung of a ladder: before the due moment it is counted back from it, later it goes by the ladder's clock. */
  #rungRing(
    lead: CompiledLead,
    task: TaskFacts,
    recipient: PersonFacts | null,
    trace: Trace,
    k: number
  ): Readonly<RingInstant> {
    const timing = this.ladders.timing(lead, task);
    const zone = this.clocks.zoneOf(lead, task, recipient);
    if (timing.n < 0) {
      const caught = k === 0 && this.ladders.everStopped(task) ? this.#caughtUp(lead, task, recipient) : null;
      const counted = this.#counted(lead, timing, task, recipient, repeatOf(k, trace));
      if (!caught) return counted;
      trace?.push({
        code: 'ladder-caught-up',
        params: { until: formatZoned(caught.until, zone), at: formatZoned(caught.at, zone) }
      });
      return Object.assign(this.#out, { instant: caught.at, originDay: zone.dayOf(caught.at) });
    }
    const ring = this.ladders.ring(
      lead,
      task,
      { zone, ownZone: this.clocks.zoneOf(lead, task, null) },
      { before: this.#lastBefore(lead, task, recipient), k },
      trace
    );
    return Object.assign(this.#out, ring ?? { instant: NaN });
  }

  #caughtUp(lead: CompiledLead, task: TaskFacts, recipient: PersonFacts | null) {
    return this.ladders.caughtUp(
      lead,
      task,
      recipient?.id ?? null,
      (level) => this.#counted(level, this.ladders.timing(level, task), task, recipient).instant
    );
  }

  /** The level before the date that rings last, where one is caught up: it may then come after the date, and those after it behind it. */
  #lastBefore(lead: CompiledLead, task: TaskFacts, recipient: PersonFacts | null): LevelBefore {
    let last = NONE_BEFORE;
    if (!this.ladders.everStopped(task)) return last;
    for (const level of this.ladders.levelsBefore(lead, task)) {
      if (level.rung!.number > lead.rung!.number) continue;
      const at = this.#caughtUp(level, task, recipient)?.at ?? -Infinity;
      if (at > last.instant) last = { number: level.rung!.number, instant: at };
    }
    return last;
  }

  #counted(
    lead: CompiledLead,
    timing: LeadTiming,
    task: TaskFacts,
    recipient: PersonFacts | null,
    { k, trace }: Repeat = FIRST
  ): Readonly<RingInstant> {
    const zone = this.clocks.zoneOf(lead, task, recipient);
    const anchor = this.anchors.in(lead, task, zone);
    if (!anchor) {
      this.#out.instant = NaN;
      return this.#out;
    }
    const context = this.#context;
    context.kind = lead.kind;
    context.name = lead.anchorName;
    context.zone = zone;
    const source = this.dates.dateSource(task);
    context.anchorZone = source.zone;
    context.dueCalendar = source.calendar;
    context.calendar = this.dates.calendarOf(task);
    return ringInstant(timing, anchor, context, this.#out, trace, k === 0 ? null : shiftOf(lead, k));
  }

  /** What a lead is counted from for a task; null when the task lacks it. What happened at an instant is read in the owner's zone. */
  anchor(lead: CompiledLead, task: TaskFacts): Moment | null {
    return this.anchors.in(lead, task, this.clocks.zoneOf(lead, task, null));
  }

  /** The value by which a ring of this lead for this task is known. */
  anchorValue(lead: CompiledLead, task: TaskFacts): string {
    const { anchor: name } = lead;
    const anchor = this.anchor(lead, task)!;
    // What happened is known by its instant: a day on which it happened twice has two.
    if (name !== null && ANCHORS[name].happened && !lead.moment)
      return formatInstant(startMoment(anchor, this.facts.workspace.zone));
    const { unit } = lead.timing;
    // A rung is known by the date, however it is timed: one that has rung stays rung when the timing changes.
    if (lead.rung) return anchorValue('day', anchor, NaN);
    if (isDayLevel(unit)) return anchorValue(unit, anchor, NaN);
    const { zone, calendar } = this.dates.dateSource(task);
    const moment =
      lead.kind === 'due'
        ? dueMoment(anchor, zone, this.facts.workspace.endOfDay, calendar)
        : startMoment(anchor, zone);
    return anchorValue(unit, anchor, moment);
  }

  /**
   * Steps 5 and 6: when a notice whose ring instant is `ringAt` leaves, and who reads it; `at` is NaN when nobody can be reached.
   * The result is shared: read it before the next call.
   */
  leaves(
    tell: CompiledTell,
    recipient: PersonFacts,
    ringAt: InstantMs,
    trace: Trace = null
  ): Readonly<Leaves> {
    const { away, force } = tell.step;
    // What is urgent passes working hours and quiet hours, but not leave.
    const choice = force === 'urgent' ? 'any time' : tell.step.reach;
    const out = this.#leaves;
    if (trace || recipient.leave !== NO_LEAVE) {
      const { reader, at } = leaving(ringAt, this.#readers.of(recipient, choice), away, trace);
      out.readerId = (reader as PersonReader).person.id;
      out.at = at;
    } else {
      // Most people are not on leave, and nobody asks why: only the hold is left.
      out.readerId = recipient.id;
      out.at = holdUntilReach(ringAt, this.reach(tell, recipient));
    }
    return out;
  }

  /** A person as steps 5, 6 and 9 know them, for a Tell. */
  readerOf({ step: { reach, force } }: CompiledTell, person: PersonFacts): PersonReader {
    return this.#readers.of(person, force === 'urgent' ? 'any time' : reach);
  }

  /** When a person may be told by a Tell. */
  reach({ step: { reach, force } }: CompiledTell, person: PersonFacts): Reach {
    return force === 'urgent' ? ANY_TIME : this.#readers.of(person, reach).reach;
  }

  /**
   * The use-by of a ring: for one before or on the day the end of what it announces, for a repeat the next one, for others 24 h
   * after the ring instant.
   * @param k which repeat
   */
  useBy(
    lead: CompiledLead,
    task: TaskFacts,
    ringAt: InstantMs,
    recipient: PersonFacts | null = null,
    k = 0
  ): InstantMs {
    if (lead.rung) {
      const timing = this.ladders.timing(lead, task);
      if (timing.n < 0) return this.anchorUseBy(lead, task);
      return (
        this.ladders.nextAfter(lead, task, ringAt, this.clocks.zoneOf(lead, task, null)) ??
        ringAt + MS_PER_DAY
      );
    }
    if (lead.timing.n <= 0 && lead.announces && k === 0) return this.anchorUseBy(lead, task);
    if (!repeats(lead)) return ringAt + MS_PER_DAY;
    const { next } = aroundNow({ planner: this, lead, task, recipient }, ringAt);
    return next?.ringAt ?? ringAt + MS_PER_DAY;
  }

  /** Whether somebody else is asked at an instant in place of a recipient on leave. */
  isStoodInFor(tell: CompiledTell, recipient: PersonFacts, at: InstantMs): boolean {
    if (recipient.leave === NO_LEAVE) return false;
    return isStoodInFor(this.readerOf(tell, recipient), at, tell.step.away);
  }

  /** Whether one telling has left or is on its way. */
  hasTold({ rule, tell, lead, task, recipient, ordinal }: Telling): boolean {
    const anchorValue = this.anchorValue(lead, task);
    const key = { lead, ordinal, anchorValue, stepId: tell.step.id, recipientId: recipient.id };
    return this.history.hasTold(rule, task, key);
  }

  /**
   * Whether what leaves then comes when the thing announced is over. Only the first ring of a lead can: a repeat has lost its point when
   * the next one comes.
   */
  isLate(
    lead: CompiledLead,
    task: TaskFacts,
    ordinal: number,
    leaving: InstantMs,
    trace: Trace = null
  ): boolean {
    if (ordinal > 0 || !lead.announces) return false;
    if (lead.rung && this.ladders.timing(lead, task).n >= 0) return false;
    const anchor = this.anchor(lead, task);
    if (!anchor || !canBeLate(lead.timing, anchor)) return false;
    const useBy = this.anchorUseBy(lead, task);
    const late = isLateBell(lead.timing, anchor, leaving, useBy);
    if (late)
      trace?.push({
        code: 'late-bell',
        params: { useBy: formatZoned(useBy, this.dates.dateSource(task).zone) }
      });
    return late;
  }

  /** In which zone the acts of a ring run: the lead's; where that is the recipient's, the owner's. */
  actZone(lead: CompiledLead, task: TaskFacts): Zone {
    return this.clocks.zoneOf(lead, task, null);
  }

  /** The end of what a lead announces. */
  anchorUseBy(lead: CompiledLead, task: TaskFacts): InstantMs {
    if (lead.anchor === 'due' && !lead.moment) return this.dates.momentOf('due', task)!;
    const { zone, calendar } = this.dates.dateSource(task);
    const anchor = this.anchor(lead, task)!;
    return useByOfAnchor(lead.kind, anchor, zone, this.facts.workspace.endOfDay, calendar);
  }
}

/** When a notice leaves, and who reads it: the recipient, or whoever is asked while they are on leave. */
export interface Leaves {
  readerId: number;
  at: InstantMs;
}
