import type { CompiledCalendar } from '../calendar/compiled.ts';
import { anchorValue } from '../delivery/keys.ts';
import { NO_LEAVE } from '../calendar/leave.ts';
import { holdUntilReach, type Reach } from '../ring/hold.ts';
import { isLateBell, canBeLate } from '../ring/late.ts';
import { isDayLevel, type AnchorKind } from '../ring/lead.ts';
import { dueMoment, startMoment, useByOfAnchor } from '../ring/moments.ts';
import { leaving } from '../ring/leaving.ts';
import type { RingContext } from '../ring/ring-context.ts';
import { ringInstant, type RingInstant } from '../ring/ring-instant.ts';
import type { Trace } from '../ring/why.ts';
import { MS_PER_DAY, type Day } from '../time/day.ts';
import { formatZoned, type Moment } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import {
  leadsFor,
  type CompiledLead,
  type Facts,
  type PersonFacts,
  type ProjectFacts,
  type RuleFacts,
  type TaskFacts
} from './facts.ts';
import { Readers, type PersonReader } from './readers.ts';

/** Where the zone and the calendar of a task's dates come from. */
export interface DateSource {
  zone: Zone;
  calendar: CompiledCalendar;
}

/**
 * Computes for one task at a time who is told and when, from the facts of a workspace. It keeps its scratch objects,
 * so that planning a hundred thousand tasks makes no garbage.
 */
export class Planner {
  readonly facts: Facts;
  readonly #context: RingContext;
  readonly #out: RingInstant = { instant: NaN, originDay: 0 };
  readonly #readers: Readers;
  readonly #leaves: Leaves = { readerId: 0, at: NaN };
  readonly #one: PersonFacts[] = [];
  /** What the last task asked for leads to: the rules of a forecast are asked for one task after the other. */
  #task: TaskFacts | null = null;
  #owner: PersonFacts | null = null;
  #project: ProjectFacts | null = null;
  #source: DateSource;
  #dueAt: InstantMs | null = null;

  constructor(facts: Facts) {
    this.facts = facts;
    this.#readers = new Readers(facts);
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

  /** Whom a rule tells about a task, each once. The list is shared: read it before the next call. */
  recipients(rule: RuleFacts, task: TaskFacts): readonly PersonFacts[] {
    this.#focus(task);
    if (rule.ofTask) return this.#reminded(rule, task);
    if (task.otherOwnerIds.length > 0) return this.#toldOfSeveral(rule, task);
    const told = this.#toldFor(rule, this.#owner);
    if (!told) return NOBODY;
    this.#one[0] = told;
    return this.#one;
  }

  /** Whom a rule tells of what one owner has. */
  #toldFor({ tell: { to } }: RuleFacts, owner: PersonFacts | null): PersonFacts | null {
    if (to === 'owner') return owner;
    if (to !== 'manager' || !owner || owner.managerId === null) return null;
    return this.facts.people.get(owner.managerId) ?? null;
  }

  #toldOfSeveral(rule: RuleFacts, task: TaskFacts): PersonFacts[] {
    const told = this.#ownersOf(task).map((owner) => this.#toldFor(rule, owner));
    return [...new Set(told)].filter((person) => person !== null);
  }

  #ownersOf({ ownerId, otherOwnerIds }: TaskFacts): PersonFacts[] {
    const ids = ownerId === null ? otherOwnerIds : [ownerId, ...otherOwnerIds];
    return ids.flatMap((id) => this.facts.people.get(id) ?? []);
  }

  #reminded(rule: RuleFacts, task: TaskFacts): readonly PersonFacts[] {
    if (task.reminders.length === 0) return NOBODY;
    const people = new Set(this.#ownersOf(task));
    for (const { personId } of task.reminders) {
      const person = personId === null ? undefined : this.facts.people.get(personId);
      if (person) people.add(person);
    }
    return [...people].filter(({ id }) => leadsFor(rule, task, id).length > 0);
  }

  /**
   * Steps 1 to 4: the ring instant of a lead for a task and a recipient. The result is shared: read it before the next call.
   * `instant` is NaN when the task lacks the anchor or the closed-day rule skips it.
   * @throws CodedError `no-working-time` or `date-out-of-range`
   */
  ring(
    lead: CompiledLead,
    task: TaskFacts,
    recipient: PersonFacts,
    trace: Trace = null
  ): Readonly<RingInstant> {
    const anchor = this.anchor(lead, task);
    if (!anchor) {
      this.#out.instant = NaN;
      return this.#out;
    }
    this.#focus(task);
    const context = this.#context;
    context.kind = lead.kind;
    context.name = lead.anchorName;
    context.zone = this.#ringZone(lead, recipient);
    context.anchorZone = this.#source.zone;
    context.dueCalendar = this.#source.calendar;
    context.calendar = this.#owner?.calendar ?? this.#project?.calendar ?? this.facts.workspace.calendar;
    return ringInstant(lead.timing, anchor, context, this.#out, trace);
  }

  /** What a lead is counted from for a task; null when the task lacks it. */
  anchor({ lead, moment }: CompiledLead, task: TaskFacts): Moment | null {
    if (moment !== null) return moment;
    if (lead.anchor === 'due') return task.due;
    return lead.anchor === 'start' ? task.start : task.remindOn;
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
    const { anchor: name, unit } = lead.lead;
    const anchor = this.anchor(lead, task)!;
    if (isDayLevel(unit)) return anchorValue(unit, anchor, NaN);
    const moment =
      lead.moment || name === 'remind on'
        ? startMoment(anchor, this.dateSource(task).zone)
        : this.momentOf(name, task)!;
    return anchorValue(unit, anchor, moment);
  }

  /**
   * Steps 5 and 6: when a notice whose ring instant is `ringAt` leaves, and who reads it; `at` is NaN when nobody can be reached.
   * The result is shared: read it before the next call.
   */
  leaves(rule: RuleFacts, recipient: PersonFacts, ringAt: InstantMs, trace: Trace = null): Readonly<Leaves> {
    const { reach: choice, away } = rule.tell;
    const out = this.#leaves;
    if (trace || recipient.leave !== NO_LEAVE) {
      const { reader, at } = leaving(ringAt, this.#readers.of(recipient, choice), away, trace);
      out.readerId = (reader as PersonReader).person.id;
      out.at = at;
    } else {
      // Most people are not on leave, and nobody asks why: only the hold is left.
      out.readerId = recipient.id;
      out.at = holdUntilReach(ringAt, this.#readers.of(recipient, choice).reach);
    }
    return out;
  }

  /** When a person may be told by this rule. */
  reach(rule: RuleFacts, person: PersonFacts): Reach {
    return this.#readers.of(person, rule.tell.reach).reach;
  }

  /**
   * The use-by of a ring: for one before or on the day the end of what it announces, for others 24 h after the ring instant.
   */
  useBy(lead: CompiledLead, task: TaskFacts, ringAt: InstantMs): InstantMs {
    return lead.lead.n <= 0 && lead.announces ? this.#anchorUseBy(lead, task) : ringAt + MS_PER_DAY;
  }

  /** Whether a notice that leaves then is a late bell. */
  isLate(lead: CompiledLead, task: TaskFacts, leaving: InstantMs, trace: Trace = null): boolean {
    const anchor = this.anchor(lead, task);
    if (!anchor || !lead.announces || !canBeLate(lead.timing, anchor)) return false;
    const useBy = this.#anchorUseBy(lead, task);
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

  /** Working days in (due date, today], on the calendar and in the zone of whoever supplies the due date's zone; 0 without a due date. */
  workingDaysOverdue(task: TaskFacts, now: InstantMs): number {
    if (!task.due) return 0;
    const { zone, calendar } = this.dateSource(task);
    const dueZone = task.due.zone ?? zone;
    return Math.max(0, calendar.days.count(task.due.day + 1, dueZone.dayOf(now) + 1));
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

  #anchorUseBy(lead: CompiledLead, task: TaskFacts): InstantMs {
    if (lead.lead.anchor === 'due') return this.momentOf('due', task)!;
    const { zone, calendar } = this.dateSource(task);
    return useByOfAnchor('start', this.anchor(lead, task)!, zone, this.facts.workspace.endOfDay, calendar);
  }

  #ringZone({ lead, namedZone }: CompiledLead, recipient: PersonFacts): Zone {
    const { workspace } = this.facts;
    switch (lead.zone.of) {
      case 'recipient':
        return recipient.zone;
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
}

export type UnrungReason =
  'already told' | 'same moment' | 'never reachable' | 'overtaken' | 'too late' | 'no longer true';
