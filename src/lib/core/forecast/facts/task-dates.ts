import type { CompiledCalendar } from '../../calendar/compiled.ts';
import type { WorkingDays } from '../../calendar/working-days.ts';
import type { AnchorKind } from '../../ring/lead.ts';
import { dueMoment, startMoment } from '../../ring/moments.ts';
import type { InstantMs, Zone } from '../../time/zone.ts';
import type { Facts, PersonFacts, ProjectFacts, TaskFacts } from './facts.ts';

/** Where the zone and the calendar of a task's dates come from. */
export interface DateSource {
  zone: Zone;
  calendar: CompiledCalendar;
}

/**
 * The dates of tasks: which instants they mean, and on whose wall and calendar they are read. It keeps what the task asked about last leads
 * to: the rules of a forecast are asked for one task after the other.
 */
export class TaskDates {
  readonly #facts: Facts;
  #task: TaskFacts | null = null;
  #owner: PersonFacts | null = null;
  #project: ProjectFacts | null = null;
  #source: DateSource;
  #dueAt: InstantMs | null = null;

  constructor(facts: Facts) {
    this.#facts = facts;
    this.#source = facts.workspace;
  }

  /** Whoever is answerable for a task, as the first of its owners; null where nobody is. */
  ownerOf(task: TaskFacts): PersonFacts | null {
    this.#focus(task);
    return this.#owner;
  }

  projectOf(task: TaskFacts): ProjectFacts | null {
    this.#focus(task);
    return this.#project;
  }

  /** The moment of a task's due or start; null when it has none. */
  momentOf(kind: AnchorKind, task: TaskFacts): InstantMs | null {
    const anchor = kind === 'due' ? task.due : task.start;
    if (!anchor) return null;
    this.#focus(task);
    const { zone, calendar } = this.#source;
    if (kind === 'start') return startMoment(anchor, zone);
    return (this.#dueAt ??= dueMoment(anchor, zone, this.#facts.workspace.endOfDay, calendar));
  }

  /** The zone of a task's plain dates and the calendar of whoever supplied it: a pinned project's, else the owner's, else the project's, else the workspace's. */
  dateSource(task: TaskFacts): DateSource {
    this.#focus(task);
    return this.#source;
  }

  /** On whose day a task's relative dates are read, and its acts run: the owner's, else the project's, else the workspace's. */
  ownerZone(task: TaskFacts): Zone {
    this.#focus(task);
    return this.#owner?.zone ?? this.#project?.zone ?? this.#facts.workspace.zone;
  }

  /** The calendar that working days of a task are counted on. */
  workingDaysOf(task: TaskFacts): WorkingDays {
    return this.calendarOf(task).days;
  }

  calendarOf(task: TaskFacts): CompiledCalendar {
    this.#focus(task);
    return this.#owner?.calendar ?? this.#project?.calendar ?? this.#facts.workspace.calendar;
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
    if (source === this.#facts.workspace) return 'the workspace';
    return this.#project?.pinned ? 'the place of its project’s dates' : 'its project';
  }

  /** Looks up once what every rule asks of a task. */
  #focus(task: TaskFacts): void {
    if (task === this.#task) return;
    const { people, projects } = this.#facts;
    this.#task = task;
    this.#dueAt = null;
    this.#owner = task.ownerId === null ? null : (people.get(task.ownerId) ?? null);
    this.#project = task.projectId === null ? null : (projects.get(task.projectId) ?? null);
    this.#source = this.#sourceOfDates();
  }

  #sourceOfDates(): DateSource {
    const { workspace } = this.#facts;
    const [owner, project] = [this.#owner, this.#project];
    if (owner && !(project?.pinned && project.zone)) return owner;
    if (!project?.zone) return workspace;
    // A project with a place but no calendar of its own closes when the workspace does.
    return { zone: project.zone, calendar: project.calendar ?? workspace.calendar };
  }
}
