import type { CompiledCalendar } from '../calendar/compiled.ts';
import { anchorValue } from '../delivery/keys.ts';
import { ANY_TIME, LONGEST_HOLD_DAYS, holdUntilReach, type Reach } from '../ring/hold.ts';
import { isLateBell, canBeLate } from '../ring/late.ts';
import type { AnchorKind } from '../ring/lead.ts';
import { dueMoment, startMoment, useByOfAnchor } from '../ring/moments.ts';
import type { RingContext } from '../ring/ring-context.ts';
import { ringInstant, type RingInstant } from '../ring/ring-instant.ts';
import type { Trace } from '../ring/why.ts';
import { MS_PER_DAY, type Day } from '../time/day.ts';
import { formatZoned, type Moment } from '../time/instant.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import type { CompiledLead, Facts, PersonFacts, RuleFacts, TaskFacts } from './facts.ts';

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
  readonly #workingReach = new Map<PersonFacts, Reach>();

  constructor(facts: Facts) {
    this.facts = facts;
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

  /** Whom a rule tells about a task; null when that is nobody. */
  recipient(rule: RuleFacts, task: TaskFacts): PersonFacts | null {
    const owner = task.ownerId === null ? null : (this.facts.people.get(task.ownerId) ?? null);
    if (rule.tell.to === 'owner') return owner;
    if (rule.tell.to !== 'manager' || !owner || owner.managerId === null) return null;
    return this.facts.people.get(owner.managerId) ?? null;
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
    const anchor = this.anchor(lead.lead.anchor, task);
    if (!anchor) {
      this.#out.instant = NaN;
      return this.#out;
    }
    const source = this.dateSource(task);
    const context = this.#context;
    context.kind = lead.lead.anchor;
    context.zone = this.#ringZone(lead, task, recipient);
    context.anchorZone = source.zone;
    context.dueCalendar = source.calendar;
    context.calendar = this.#countingCalendar(task);
    return ringInstant(lead.timing, anchor, context, this.#out, trace);
  }

  anchor(kind: AnchorKind, task: TaskFacts): Moment | null {
    return kind === 'due' ? task.due : task.start;
  }

  /** The moment of a task's due or start; null when it has none. */
  momentOf(kind: AnchorKind, task: TaskFacts): InstantMs | null {
    const anchor = this.anchor(kind, task);
    if (!anchor) return null;
    const { zone, calendar } = this.dateSource(task);
    return kind === 'due'
      ? dueMoment(anchor, zone, this.facts.workspace.endOfDay, calendar)
      : startMoment(anchor, zone);
  }

  /** The value by which a ring of this lead for this task is known. */
  anchorValue(lead: CompiledLead, task: TaskFacts): string {
    const { anchor: kind, unit } = lead.lead;
    return anchorValue(unit, this.anchor(kind, task)!, this.momentOf(kind, task)!);
  }

  /** Step 6: when a notice whose ring instant is `ringAt` leaves; NaN when the recipient cannot be reached. */
  leaves(rule: RuleFacts, recipient: PersonFacts, ringAt: InstantMs, trace: Trace = null): InstantMs {
    const reach = this.reach(rule, recipient);
    const leaving = holdUntilReach(ringAt, reach);
    if (trace && Number.isNaN(leaving))
      trace.push({ code: 'never-reachable', params: { days: LONGEST_HOLD_DAYS } });
    else if (trace && leaving !== ringAt) {
      const params = { from: formatZoned(ringAt, recipient.zone), to: formatZoned(leaving, recipient.zone) };
      trace.push({ code: 'held', params });
    }
    return leaving;
  }

  /** When the recipient may be told by this rule. */
  reach(rule: RuleFacts, recipient: PersonFacts): Reach {
    if (rule.tell.reach === 'any time') return ANY_TIME;
    let reach = this.#workingReach.get(recipient);
    if (!reach)
      this.#workingReach.set(recipient, (reach = { kind: 'working', spans: recipient.calendar.spans }));
    return reach;
  }

  /**
   * The use-by of a ring: for one before or on the day the end of what it announces, for others 24 h after the ring instant.
   */
  useBy(lead: CompiledLead, task: TaskFacts, ringAt: InstantMs): InstantMs {
    return lead.lead.n <= 0 ? this.#anchorUseBy(lead, task) : ringAt + MS_PER_DAY;
  }

  /** Whether a notice that leaves then is a late bell. */
  isLate(lead: CompiledLead, task: TaskFacts, leaving: InstantMs, trace: Trace = null): boolean {
    const anchor = this.anchor(lead.lead.anchor, task);
    if (!anchor || !canBeLate(lead.timing, anchor)) return false;
    const useBy = this.#anchorUseBy(lead, task);
    const late = isLateBell(lead.timing, anchor, leaving, useBy);
    if (late)
      trace?.push({ code: 'late-bell', params: { useBy: formatZoned(useBy, this.dateSource(task).zone) } });
    return late;
  }

  /** The zone of a task's plain dates and the calendar of whoever supplied it: a pinned project's, else the owner's, else the project's, else the workspace's. */
  dateSource(task: TaskFacts): DateSource {
    const { people, projects, workspace } = this.facts;
    const project = task.projectId === null ? undefined : projects.get(task.projectId);
    const owner = task.ownerId === null ? undefined : people.get(task.ownerId);
    if (owner && !(project?.pinned && project.zone)) return owner;
    if (!project?.zone) return workspace;
    // A project with a place but no calendar of its own closes when the workspace does.
    return project.calendar ? (project as DateSource) : { zone: project.zone, calendar: workspace.calendar };
  }

  #anchorUseBy(lead: CompiledLead, task: TaskFacts): InstantMs {
    const { zone, calendar } = this.dateSource(task);
    const kind = lead.lead.anchor;
    return useByOfAnchor(kind, this.anchor(kind, task)!, zone, this.facts.workspace.endOfDay, calendar);
  }

  #countingCalendar(task: TaskFacts): CompiledCalendar {
    const { people, projects, workspace } = this.facts;
    const owner = task.ownerId === null ? undefined : people.get(task.ownerId);
    const project = task.projectId === null ? undefined : projects.get(task.projectId);
    return owner?.calendar ?? project?.calendar ?? workspace.calendar;
  }

  #ringZone({ lead, namedZone }: CompiledLead, task: TaskFacts, recipient: PersonFacts): Zone {
    const { people, projects, workspace } = this.facts;
    const project = task.projectId === null ? undefined : projects.get(task.projectId);
    switch (lead.zone.of) {
      case 'recipient':
        return recipient.zone;
      case 'owner':
        return (
          (task.ownerId === null ? undefined : people.get(task.ownerId)?.zone) ??
          project?.zone ??
          workspace.zone
        );
      case 'project':
        return project?.zone ?? workspace.zone;
      case 'workspace':
        return workspace.zone;
      case 'named':
        return namedZone ?? workspace.zone;
    }
  }
}

/** A notice as it will be: what rings, for whom, when, and when it leaves. */
export interface PlannedNotice {
  ruleId: number;
  leadId: string;
  leadOrder: number;
  taskId: number;
  recipientId: number;
  /** Steps 1 to 4. */
  ringAt: InstantMs;
  /** Steps 5 to 9; NaN when it never leaves. */
  leavesAt: InstantMs;
  /** The date before the closed-day rule. */
  originDay: Day;
  lateBell: boolean;
  /** Why it will not be sent; null when it will. */
  unrung: UnrungReason | null;
  /** The record that holds it, when its ring instant has passed already. */
  noticeId: number | null;
}

export type UnrungReason =
  'already told' | 'same moment' | 'never reachable' | 'overtaken' | 'too late' | 'no longer true';
