import type { CompiledCalendar } from '../calendar/compiled.ts';
import type { WorkingDays } from '../calendar/working-days.ts';
import { anchorValue } from '../delivery/keys.ts';
import { NO_LEAVE } from '../calendar/leave.ts';
import { momentOfInstant } from '../ring/anchors.ts';
import { ANY_TIME, holdUntilReach, type Reach } from '../ring/hold.ts';
import { isLateBell, canBeLate } from '../ring/late.ts';
import { isDayLevel, type AnchorKind, type LeadTiming } from '../ring/lead.ts';
import { dueMoment, startMoment, useByOfAnchor } from '../ring/moments.ts';
import { leaving } from '../ring/leaving.ts';
import type { RingContext } from '../ring/ring-context.ts';
import { ringInstant, type RingInstant } from '../ring/ring-instant.ts';
import type { Shift } from '../ring/shift.ts';
import type { Trace } from '../ring/why.ts';
import type { LeadFilter, OffsetLead } from '../rule/model.ts';
import type { CompiledTell } from '../rule/program.ts';
import { inScope } from '../rule/watch.ts';
import type { TaskDetails } from '../task/details.ts';
import { MS_PER_DAY, type Day } from '../time/day.ts';
import { formatInstant, formatZoned, instantOnWall, type Moment } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { happensFirst, type CompiledLead } from './compile-lead.ts';
import { repeats, type RuleFacts } from './compile-rule.ts';
import { isReachable, type Facts, type PersonFacts, type ProjectFacts, type TaskFacts } from './facts.ts';
import { Readers, type PersonReader } from './readers.ts';
import { ownersOf, toldBy, type Told } from './recipients.ts';
import { Ladders } from './ladders.ts';
import { Subject, momentOfValue, type RingsSoFar } from './subject.ts';
import { folded } from '../rule/compile-condition.ts';

/** Where the zone and the calendar of a task's dates come from. */
export interface DateSource {
  zone: Zone;
  calendar: CompiledCalendar;
}

/** What has happened already, where rings depend on it. */
export interface PlannerHistory {
  ringsSoFar: RingsSoFar;
  /** When the last notice of a lead left for a task in its round; null when none has. */
  lastLeft: (ruleId: number, leadId: string, taskId: number) => InstantMs | null;
}

export const NO_HISTORY: PlannerHistory = { ringsSoFar: () => 0, lastLeft: () => null };

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
  readonly #one: PersonFacts[] = [];
  /** By Tell, owner and project. */
  readonly #alike = new Map<CompiledTell, Map<number | null, Map<number | null, readonly PersonFacts[]>>>();
  readonly #subject: Subject;
  /** The clocks of ladders. */
  readonly ladders: Ladders;
  /** What the last task asked for leads to: the rules of a forecast are asked for one task after the other. */
  #task: TaskFacts | null = null;
  #owner: PersonFacts | null = null;
  #project: ProjectFacts | null = null;
  #source: DateSource;
  #dueAt: InstantMs | null = null;

  constructor(facts: Facts, history: PlannerHistory = NO_HISTORY) {
    this.facts = facts;
    this.history = history;
    this.#readers = new Readers(facts);
    this.#subject = new Subject(this, history.ringsSoFar);
    this.ladders = new Ladders(this);
    const { zone, calendar, endOfDay, noticeMinute } = facts.workspace;
    this.#source = facts.workspace;
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
    if (tell.step.force !== 'must' && task.quietFor.includes(recipient.id)) return true;
    const { hushes } = this.facts;
    if (hushes === null) return false;
    const named = { task: task.id, project: task.projectId, person: recipient.id, rule: id };
    return hushes.some((hush) => named[hush.of] === hush.id && hush.from <= at && at < hush.until);
  }

  /** Whether a lead holds for a task: priority, tags, groups of its owner. */
  leadHolds({ lead: { only }, tags }: CompiledLead, task: TaskFacts): boolean {
    return this.filterHolds(only, tags, task);
  }

  /** @param tags folded names of the tags that it asks for */
  filterHolds(only: LeadFilter | null, tags: ReadonlySet<string> | null, task: TaskFacts): boolean {
    if (!only) return true;
    if (only.priorities.length > 0 && !only.priorities.includes(task.priority)) return false;
    if (tags && !this.facts.detailsOf(task.id).tags.some((tag) => tags.has(folded(tag)))) return false;
    const owner = task.ownerId;
    return (
      only.groups.length === 0 ||
      (owner !== null && only.groups.some((group) => this.facts.groups.get(group)?.has(owner)))
    );
  }

  /**
   * Whom a Tell tells of a task, each once.
   * @param leadId the lead that rings; null asks for all of them
   */
  told(
    rule: RuleFacts,
    tell: CompiledTell,
    task: TaskFacts,
    leadId: string | null,
    actorId: number | null = null
  ): Told[] {
    return toldBy(tell, task, this.facts, { keeperId: rule.keeperId, actorId, leadId });
  }

  /** Whom a rule tells about a task by its Tells at planned rings, each once. The list is shared: read it before the next call. */
  recipients(rule: RuleFacts, tell: CompiledTell, task: TaskFacts): readonly PersonFacts[] {
    this.#focus(task);
    if (rule.ofTask) return this.#reminded(task);
    if (tell.single !== null && task.otherOwnerIds.length === 0) {
      const told = this.#toldAlone(tell.single, this.#owner);
      if (!told) return NOBODY;
      this.#one[0] = told;
      return this.#one;
    }
    if (!tell.byOwner || task.otherOwnerIds.length > 0)
      return this.told(rule, tell, task, null).map(({ person }) => person);
    return this.#toldAlike(rule, tell, task);
  }

  /** Whom a Tell tells of every task of one owner and project: looked up once for them. */
  #toldAlike(rule: RuleFacts, tell: CompiledTell, task: TaskFacts): readonly PersonFacts[] {
    let known = this.#alike.get(tell);
    if (!known) this.#alike.set(tell, (known = new Map()));
    const { ownerId, projectId } = task;
    let ofOwner = known.get(ownerId);
    if (!ofOwner) known.set(ownerId, (ofOwner = new Map()));
    let people = ofOwner.get(projectId);
    if (!people)
      ofOwner.set(projectId, (people = this.told(rule, tell, task, null).map(({ person }) => person)));
    return people;
  }

  /** Everybody whom a rule tells about a task before anything else is done, by any of its Tells. */
  audience(rule: RuleFacts, task: TaskFacts): PersonFacts[] {
    const { leading, tells } = rule.program;
    const asked = leading.length > 0 ? leading : [...tells.values()];
    return [...new Set(asked.flatMap((tell) => [...this.recipients(rule, tell, task)]))];
  }

  /** Planned leads of a rule by which a Tell tells somebody of a task. */
  leadsFor(
    rule: RuleFacts,
    tell: CompiledTell,
    task: TaskFacts,
    person: PersonFacts
  ): readonly CompiledLead[] {
    if (rule.ofTask) {
      const owns = ownersOf(task).includes(person.id);
      return task.reminders
        .filter((reminder) => (reminder.personId === null ? owns : reminder.personId === person.id))
        .map(({ lead }) => lead);
    }
    if (tell.leads === null && !tell.filtered) return rule.planned;
    return rule.planned.filter(
      ({ lead: { id } }) =>
        (tell.leads === null || tell.leads.has(id)) &&
        (!tell.filtered || this.told(rule, tell, task, id).some((told) => told.person === person))
    );
  }

  #toldAlone(single: 'owner' | 'manager', owner: PersonFacts | null): PersonFacts | null {
    if (single === 'owner') return owner;
    if (!owner || owner.managerId === null || owner.managerId === owner.id) return null;
    return this.facts.people.get(owner.managerId) ?? null;
  }

  #reminded(task: TaskFacts): readonly PersonFacts[] {
    if (task.reminders.length === 0) return NOBODY;
    const owned = task.reminders.some(({ personId }) => personId === null);
    const ids = [
      ...(owned ? ownersOf(task) : []),
      ...task.reminders.flatMap(({ personId }) => personId ?? [])
    ];
    return [...new Set(ids)].flatMap((id) => this.facts.people.get(id) ?? []);
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
    this.#focus(task);
    if (lead.rung) return this.#rungRing(lead, task, recipient, trace, k);
    return this.#counted(lead, lead.timing, task, recipient, trace, k);
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
    if (timing.n < 0) return this.#counted(lead, timing, task, recipient, trace, k);
    const ring = this.ladders.ring(
      lead,
      task,
      this.#ringZone(lead, recipient),
      this.#ringZone(lead, null),
      k,
      trace
    );
    return Object.assign(this.#out, ring ?? { instant: NaN });
  }

  #counted(
    lead: CompiledLead,
    timing: LeadTiming,
    task: TaskFacts,
    recipient: PersonFacts | null,
    trace: Trace,
    k: number
  ): Readonly<RingInstant> {
    const zone = this.#ringZone(lead, recipient);
    const anchor = this.#anchorIn(lead, task, zone);
    if (!anchor) {
      this.#out.instant = NaN;
      return this.#out;
    }
    const context = this.#context;
    context.kind = lead.kind;
    context.name = lead.anchorName;
    context.zone = zone;
    context.anchorZone = this.#source.zone;
    context.dueCalendar = this.#source.calendar;
    context.calendar = this.#calendar();
    return ringInstant(timing, anchor, context, this.#out, trace, k === 0 ? null : shiftOf(lead, k));
  }

  /** What a lead is counted from for a task; null when the task lacks it. What happened at an instant is read in the owner's zone. */
  anchor(lead: CompiledLead, task: TaskFacts): Moment | null {
    this.#focus(task);
    return this.#anchorIn(lead, task, this.#ringZone(lead, null));
  }

  #anchorIn({ lead, moment, anchor, ruleId }: CompiledLead, task: TaskFacts, ringZone: Zone): Moment | null {
    if (moment !== null) return moment;
    switch (anchor) {
      case null:
        return null;
      case 'due':
        return task.due;
      case 'start':
        return task.start;
      case 'remind on':
        return task.remindOn;
      case 'review date':
        return this.facts.detailsOf(task.id).reviewDate;
      case 'promise date':
        return this.facts.detailsOf(task.id).promiseDate;
      case 'ladder':
        // What is no work is never late.
        return task.register ? null : task.due;
      case 'own date': {
        const { field } = lead as OffsetLead;
        const value = field && this.facts.detailsOf(task.id).own.get(field.id);
        return value === undefined ? null : momentOfValue(value, field!.end, this.#source.zone);
      }
      default: {
        const instant =
          anchor === 'earlier ring'
            ? this.history.lastLeft(ruleId, (lead as OffsetLead).after ?? '', task.id)
            : this.#happened(anchor, task);
        return instant === null ? null : momentOfInstant(instant, ringZone);
      }
    }
  }

  #happened(
    anchor:
      'created' | 'assigned' | 'last touched' | 'finished' | 'closed' | 'phase entered' | 'acknowledged',
    task: TaskFacts
  ): InstantMs | null {
    const details = this.facts.detailsOf(task.id);
    switch (anchor) {
      case 'created':
        return details.createdAt;
      case 'assigned':
        return task.ownerId === null ? null : details.assignedAt;
      case 'last touched':
        return details.touchedAt;
      case 'finished':
        return details.finishedAt;
      case 'closed':
        return details.closedAt;
      case 'phase entered':
        return details.phaseSince;
      case 'acknowledged':
        return details.acknowledgements.at(-1)?.at ?? null;
    }
  }

  /** The moment of a task's due or start; null when it has none. */
  momentOf(kind: AnchorKind, task: TaskFacts): InstantMs | null {
    const anchor = kind === 'due' ? task.due : task.start;
    if (!anchor) return null;
    this.#focus(task);
    const { zone, calendar } = this.#source;
    if (kind === 'start') return startMoment(anchor, zone);
    return (this.#dueAt ??= dueMoment(anchor, zone, this.facts.workspace.endOfDay, calendar));
  }

  /** The value by which a ring of this lead for this task is known. */
  anchorValue(lead: CompiledLead, task: TaskFacts): string {
    const { anchor: name } = lead;
    const anchor = this.anchor(lead, task)!;
    // What happened is known by its instant: a day on which it happened twice has two.
    if (name !== null && happensFirst(name) && !lead.moment)
      return formatInstant(startMoment(anchor, this.facts.workspace.zone));
    const { unit } = lead.timing;
    // A rung is known by the date, however it is timed: one that has rung stays rung when the timing changes.
    if (lead.rung) return anchorValue('day', anchor, NaN);
    if (isDayLevel(unit)) return anchorValue(unit, anchor, NaN);
    const { zone, calendar } = this.dateSource(task);
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

  /**
   * “In order”: what others are told of a ring waits for the owner's notice, where a hold puts that off. A leave does not keep it waiting,
   * nor does an owner who is hushed or cannot be reached.
   * @returns the instant before which it does not leave; the ring instant itself where nothing is waited for
   */
  afterOwner(
    rule: RuleFacts,
    lead: CompiledLead,
    task: TaskFacts,
    recipient: PersonFacts,
    ringAt: InstantMs,
    ordinal: number
  ): InstantMs {
    if (!rule.ordered || lead.anchor === null || ownersOf(task).includes(recipient.id)) return ringAt;
    this.#focus(task);
    const owner = this.#owner;
    const tell = rule.program.leading.find(
      ({ step, leads }) =>
        step.to.some((one) => one.who === 'owner') && (leads === null || leads.has(lead.lead.id))
    );
    if (!owner || !tell || !isReachable(owner)) return ringAt;
    const { instant } = this.ring(lead, task, owner, null, ordinal);
    if (Number.isNaN(instant) || this.isHushed(rule, tell, task, owner, instant)) return ringAt;
    if (owner.leave.covers(instant)) return ringAt;
    const left = holdUntilReach(instant, this.reach(tell, owner));
    if (Number.isNaN(left) || owner.leave.covers(left)) return ringAt;
    // What would be late leaves earlier, at its own time, or not at all: nobody waits for it.
    if (rule.ifLate !== 'keep' && this.isLate(lead, task, left)) return ringAt;
    return Math.max(ringAt, left);
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
      return this.ladders.nextAfter(lead, task, ringAt, this.#ringZone(lead, null)) ?? ringAt + MS_PER_DAY;
    }
    if (lead.timing.n <= 0 && lead.announces && k === 0) return this.anchorUseBy(lead, task);
    if (!repeats(lead)) return ringAt + MS_PER_DAY;
    const { instant } = this.ring(lead, task, recipient, null, k + 1);
    return Number.isNaN(instant) ? ringAt + MS_PER_DAY : instant;
  }

  /** Whether a notice that leaves then is a late bell. */
  isLate(lead: CompiledLead, task: TaskFacts, leaving: InstantMs, trace: Trace = null): boolean {
    if (!lead.announces || (lead.rung && this.ladders.timing(lead, task).n >= 0)) return false;
    const anchor = this.anchor(lead, task);
    if (!anchor || !canBeLate(lead.timing, anchor)) return false;
    const useBy = this.anchorUseBy(lead, task);
    const late = isLateBell(lead.timing, anchor, leaving, useBy);
    if (late)
      trace?.push({ code: 'late-bell', params: { useBy: formatZoned(useBy, this.dateSource(task).zone) } });
    return late;
  }

  /** The zone of a task's plain dates and the calendar of whoever supplied it: a pinned project's, else the owner's, else the project's, else the workspace's. */
  dateSource(task: TaskFacts): DateSource {
    this.#focus(task);
    return this.#source;
  }

  /** On whose day a task's relative dates are read, and its acts run: the owner's, else the project's, else the workspace's. */
  ownerZone(task: TaskFacts): Zone {
    this.#focus(task);
    return this.#owner?.zone ?? this.#project?.zone ?? this.facts.workspace.zone;
  }

  /** The calendar that working days of a task are counted on. */
  workingDaysOf(task: TaskFacts): WorkingDays {
    return this.calendarOf(task).days;
  }

  calendarOf(task: TaskFacts): CompiledCalendar {
    this.#focus(task);
    return this.#calendar();
  }

  /** In which zone the acts of a ring run: the lead's; where that is the recipient's, the owner's. */
  actZone(lead: CompiledLead, task: TaskFacts): Zone {
    this.#focus(task);
    return this.#ringZone(lead, null);
  }

  #calendar(): CompiledCalendar {
    return this.#owner?.calendar ?? this.#project?.calendar ?? this.facts.workspace.calendar;
  }

  /** Working days in (due date, today], on the calendar and in the zone of whoever supplies the due date's zone; 0 without a due date. */
  workingDaysOverdue(task: TaskFacts, now: InstantMs): number {
    if (!task.due) return 0;
    const { zone, calendar } = this.dateSource(task);
    const dueZone = task.due.zone ?? zone;
    return Math.max(0, calendar.days.count(task.due.day + 1, dueZone.dayOf(now) + 1));
  }

  /** The zone that a task's plain dates are pinned to by its project; null where they are not. */
  pinnedTo(task: TaskFacts): Zone | null {
    this.#focus(task);
    return this.#project?.pinned ? this.#project.zone : null;
  }

  /** Who supplies the zone of a task's plain dates, in words. */
  dateSupplier(task: TaskFacts): string {
    const source = this.dateSource(task);
    if (source === this.#owner) return 'its owner';
    if (source === this.facts.workspace) return 'the workspace';
    return this.#project?.pinned ? 'the place that its project pins its dates to' : 'its project';
  }

  /** Looks up once what every rule asks of a task. */
  #focus(task: TaskFacts): void {
    if (task === this.#task) return;
    const { people, projects } = this.facts;
    this.#task = task;
    this.#dueAt = null;
    this.#owner = task.ownerId === null ? null : (people.get(task.ownerId) ?? null);
    this.#project = task.projectId === null ? null : (projects.get(task.projectId) ?? null);
    this.#source = this.#sourceOfDates();
  }

  #sourceOfDates(): DateSource {
    const { workspace } = this.facts;
    const [owner, project] = [this.#owner, this.#project];
    if (owner && !(project?.pinned && project.zone)) return owner;
    if (!project?.zone) return workspace;
    // A project with a place but no calendar of its own closes when the workspace does.
    return { zone: project.zone, calendar: project.calendar ?? workspace.calendar };
  }

  /** The end of what a lead announces. */
  anchorUseBy(lead: CompiledLead, task: TaskFacts): InstantMs {
    if (lead.anchor === 'due' && !lead.moment) return this.momentOf('due', task)!;
    const { zone, calendar } = this.dateSource(task);
    const anchor = this.anchor(lead, task)!;
    return useByOfAnchor(lead.kind, anchor, zone, this.facts.workspace.endOfDay, calendar);
  }

  #ringZone({ lead, namedZone }: CompiledLead, recipient: PersonFacts | null): Zone {
    const { workspace } = this.facts;
    switch (lead.zone.of) {
      case 'recipient':
        return (recipient ?? this.#owner)?.zone ?? this.#project?.zone ?? workspace.zone;
      case 'owner':
        return this.#owner?.zone ?? this.#project?.zone ?? workspace.zone;
      case 'project':
        return this.#project?.zone ?? workspace.zone;
      case 'workspace':
        return workspace.zone;
      case 'named':
        return namedZone ?? workspace.zone;
    }
  }
}

const NOBODY: readonly PersonFacts[] = [];

function shiftOf({ lead }: CompiledLead, k: number): Shift | null {
  const repeat = lead.kind === 'offset' ? lead.repeat : null;
  return repeat && { k, n: repeat.n, unit: repeat.unit };
}

/** When a notice leaves, and who reads it: the recipient, or whoever is asked while they are on leave. */
export interface Leaves {
  readerId: number;
  at: InstantMs;
}

/** A notice as it will be: what rings, for whom, when, and when it leaves. */
export interface PlannedNotice {
  ruleId: number;
  leadId: string;
  leadOrder: number;
  /** Which repeat of the lead. */
  ordinal: number;
  /** Id of the Tell. */
  stepId: string;
  taskId: number;
  recipientId: number;
  /** Who reads it in the end. */
  readerId: number;
  /** Steps 1 to 4. */
  ringAt: InstantMs;
  /** Steps 5 to 9; NaN when it never leaves. */
  leavesAt: InstantMs;
  /** The date before the closed-day rule. */
  originDay: Day;
  lateBell: boolean;
  /** Above the day's most messages: it leaves together with others. */
  folded: boolean;
  /** Why it will not be sent; null when it will. */
  unrung: UnrungReason | null;
  /** The record that holds it, when its ring instant has passed already. */
  noticeId: number | null;
  /** The rule that must act first for this to come; null when nothing of it hangs on an act. */
  ifActs: number | null;
}

export type UnrungReason =
  | 'already told'
  | 'same moment'
  | 'never reachable'
  | 'overtaken'
  | 'too late'
  | 'no longer true'
  | 'hushed'
  | 'enough notices';
