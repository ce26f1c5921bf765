import { UNLOOKED_DAYS, UNPLACED_DAYS, daysSince } from '../desk/owner-days.ts';
import { ifComputable } from '../if-computable.ts';
import type { WorkingDays } from '../calendar/working-days.ts';
import { canBeOverdue, isOpenWork, type PersonFacts, type TaskFacts } from '../forecast/facts/facts.ts';
import type { Planner } from '../forecast/plan/planner.ts';
import { ownersOf } from '../forecast/facts/recipients.ts';
import { dueDayForReader } from '../ring/days-left.ts';
import { PHASES, UNSEEN, isOpen } from '../task/model.ts';
import { compileWatch, type CompiledWatch } from '../rule/watch.ts';
import { openWatch } from '../rule/model.ts';
import type { TaskDetails } from '../task/details.ts';
import type { Day } from '../time/day.ts';
import type { InstantMs, Zone } from '../time/zone.ts';
import { PART_OF, isTable, type DigestDefinition, type DigestPart, type DigestSection } from './model.ts';
import { reportsOf } from './readers.ts';
import { soonestFirst, worstFirst, type DigestRow } from './row.ts';
import { tableRows, type DigestGroup } from './table-rows.ts';
import { rollUp, type RollUp, type RollUpBefore } from './roll-up.ts';

export interface SectionRows {
  section: DigestSection;
  /** All of them, in their order. */
  rows: DigestRow[];
  /** Of a table with groups: where each begins, and under which heading. */
  groups: readonly DigestGroup[];
}

/** What a digest says to a reader at an instant. */
export interface DigestContents {
  sections: SectionRows[];
  /** By person, for a digest about others’ work; null for one’s own. */
  rollUp: RollUp | null;
  /** Tasks that were looked at. */
  looked: number;
  /** The last day of “due next” for its reader; null where each owner has another. */
  nextUntil: Day | null;
  /** Of the tasks that stand in it, each counted once. */
  counts: DigestCounts;
}

export interface DigestCounts {
  all: number;
  overdue: number;
  dueToday: number;
}

/** The tasks of a workspace by owner, for many digests of one instant. */
export class DigestTasks {
  readonly all: readonly TaskFacts[];
  readonly #byOwner = new Map<number, TaskFacts[]>();

  constructor(tasks: readonly TaskFacts[]) {
    this.all = tasks;
    for (const task of tasks)
      for (const owner of ownersOf(task)) {
        const own = this.#byOwner.get(owner);
        if (own) own.push(task);
        else this.#byOwner.set(owner, [task]);
      }
  }

  of(personId: number): readonly TaskFacts[] {
    return this.#byOwner.get(personId) ?? [];
  }
}

/** What digests ask of a task besides its facts. */
export type DigestDetails = Pick<
  TaskDetails,
  | 'statusId'
  | 'assignedAt'
  | 'finishedAt'
  | 'logTime'
  | 'minutesLogged'
  | 'acknowledged'
  | 'placed'
  | 'ownerLookedAt'
>;

/** A task is in “all of a list” where both look at it. */
export interface Listed {
  /** What the list shows, in its own phases and places. */
  list: CompiledWatch;
  /** What the digest looks at, wherever it stands. */
  scope: CompiledWatch;
}

/** Of what a digest is computed besides the tasks. */
export interface DigestAsked {
  detailsOf: (taskId: number) => DigestDetails;
  definition: Pick<DigestDefinition, 'about' | 'sections' | 'nextWorkingDays' | 'table'>;
  watch: CompiledWatch;
  /** What “all of a list” holds; null where there is no such section. */
  listed: Listed | null;
  /** Names of statuses by id, in their order: a table is grouped by them. */
  statuses: ReadonlyMap<number, string>;
  /** Who sees the project of their private tasks in it; null: nobody does. */
  seenBy: number | null;
  /** Null where it is to all readers together: then it can be about nobody’s own work. */
  reader: PersonFacts | null;
  /** Those of a person’s own digests that leave now; both for one on a schedule. */
  parts: readonly DigestPart[];
  at: InstantMs;
  /** When the last one was sent to this reader: what is new or finished counts from there. */
  since: InstantMs;
  /** The numbers of the last one that was sent; null for the first. */
  before: RollUpBefore | null;
}

/** A digest looks at what its Watch names in every phase: its sections say which. */
export function digestWatch(
  { watch }: Pick<DigestDefinition, 'watch'>,
  world: Parameters<typeof compileWatch>[2]
): CompiledWatch {
  return compileWatch(
    { watch: { ...watch, phases: watch.phases ?? [...PHASES] }, leads: [] },
    null,
    world,
    true
  );
}

/** What “all of a list” holds: everything that the list shows of what the digest looks at; null where there is no such section. */
export function digestListed(
  { sections, watch, table: { list } }: Pick<DigestDefinition, 'sections' | 'watch' | 'table'>,
  world: Parameters<typeof compileWatch>[2]
): Listed | null {
  if (!sections.includes('all of a list') || list === null) return null;
  return {
    list: compileWatch({ watch: { ...openWatch(), list }, leads: [] }, null, world, true),
    scope: digestWatch({ watch: { ...watch, seen: [...UNSEEN] } }, world)
  };
}

/** What a digest says to a reader. Pure: the same facts give the same digest, whoever asks. */
export function digestContents(planner: Planner, tasks: DigestTasks, asked: DigestAsked): DigestContents {
  const { definition, reader, parts } = asked;
  const own = definition.about === 'own';
  const reports = definition.about === 'reports' && reader ? reportsOf(reader.id, planner.facts.people) : [];
  const found =
    definition.about === 'everybody'
      ? tasks.all
      : own
        ? reader
          ? tasks.of(reader.id)
          : []
        : unique(reports.flatMap(({ id }) => [...tasks.of(id)]));
  const place = new Placing(planner, asked, own ? reader : null);
  const watched: TaskFacts[] = [];
  const wanted = definition.sections.filter(
    (section) => PART_OF[section] === 'both' || parts.includes(PART_OF[section])
  );
  const sections = new Map<DigestSection, DigestRow[]>(wanted.map((section) => [section, []]));
  const firstFit = wanted.filter((section) => !isTable(section));
  const tables = wanted.filter(isTable);
  const counts: DigestCounts = { all: 0, overdue: 0, dueToday: 0 };
  for (const task of found) {
    const isWatched = place.sees(asked.watch, task);
    if (isWatched) watched.push(task);
    const section = isWatched ? firstFit.find((one) => place.isIn(one, task)) : undefined;
    const inTables = tables.filter((one) => (isWatched || one === 'all of a list') && place.isIn(one, task));
    if (!section && inTables.length === 0) continue;
    const row = place.row(task);
    for (const one of section ? [section, ...inTables] : inTables) sections.get(one)!.push(row);
    counts.all++;
    if (place.isIn('overdue', task)) counts.overdue++;
    else if (place.isIn('due today', task)) counts.dueToday++;
  }
  return {
    sections: [...sections].map(([section, rows]) =>
      isTable(section)
        ? { section, ...tableRows(rows, definition.table, { ...asked, names: planner.facts }) }
        : { section, rows: rows.sort(section === 'overdue' ? worstFirst : soonestFirst), groups: [] }
    ),
    counts,
    rollUp: own ? null : rollUp(planner, watched, reports, asked.at, asked.before),
    looked: found.length,
    nextUntil: place.nextUntil
  };
}

/** Whether there is nothing to say. */
export function isEmpty({ sections, rollUp: counts }: DigestContents, kept: number): boolean {
  return kept === 0 && sections.every(({ rows }) => rows.length === 0) && (counts?.total.overdue ?? 0) === 0;
}

/** In which section a task stands. */
class Placing {
  readonly #planner: Planner;
  readonly #asked: DigestAsked;
  /** Whose today it is: the reader’s for their own tasks, else each owner’s. */
  readonly #reader: PersonFacts | null;
  /** The reader’s days, which are the same for each of their tasks. */
  readonly #own: { today: Day; lastNext: Day } | null = null;
  /** The task that was asked about last: each is asked about section by section. */
  #task: TaskFacts | null = null;
  #dueAt: InstantMs | null = null;
  #known: DigestDetails | null = null;

  constructor(planner: Planner, asked: DigestAsked, reader: PersonFacts | null) {
    this.#planner = planner;
    this.#asked = asked;
    this.#reader = reader;
    if (!reader) return;
    const today = reader.zone.dayOf(asked.at);
    const lastNext = lastOfNext(reader.calendar.days, today, asked.definition.nextWorkingDays);
    this.#own = { today, lastNext };
  }

  get nextUntil(): Day | null {
    return this.#own?.lastNext ?? null;
  }

  row(task: TaskFacts): DigestRow {
    const { at } = this.#asked;
    const dueAt = this.#dueMoment(task);
    const workdays = dueAt !== null && at >= dueAt ? this.#planner.dates.workingDaysOverdue(task, at) : 0;
    return { task, dueAt, workdays };
  }

  isIn(section: DigestSection, task: TaskFacts): boolean {
    const { at, since } = this.#asked;
    switch (section) {
      case 'needs acknowledgement':
        return this.#isOverdue(task) && !this.#details(task).acknowledged;
      case 'overdue':
        return this.#isOverdue(task);
      case 'due today':
        return this.#isAhead(task) && this.#dueDay(task) <= this.#today(task);
      case 'due next':
        return (
          this.#isAhead(task) &&
          this.#dueDay(task) > this.#today(task) &&
          this.#dueDay(task) <= this.#lastNext(task)
        );
      case 'starts today':
        return (
          isOpenWork(task) &&
          task.start !== null &&
          dueDayForReader(task.start, this.#zone(task)) === this.#today(task)
        );
      case 'newly assigned':
        return isOpenWork(task) && task.ownerId !== null && within(this.#details(task).assignedAt, since, at);
      case 'finished':
        return isDone(task) && within(this.#details(task).finishedAt, since, at);
      case 'time to be logged':
        return isDone(task) && this.#details(task).logTime && this.#details(task).minutesLogged === 0;
      case 'undated':
        return isOpenWork(task) && task.due === null;
      case 'not placed':
        return isOpenWork(task) && !this.#details(task).placed && this.#ownerDays(task, null) > UNPLACED_DAYS;
      case 'not looked':
        return isOpenWork(task) && this.#ownerDays(task, this.#details(task).ownerLookedAt) >= UNLOOKED_DAYS;
      case 'all open':
        return isOpenWork(task);
      case 'all of a list':
        return this.#isListed(task);
      case 'kept to come together':
        return false;
    }
  }

  #isListed(task: TaskFacts): boolean {
    const { listed } = this.#asked;
    return listed !== null && this.sees(listed.list, task) && this.sees(listed.scope, task);
  }

  sees(watch: CompiledWatch, task: TaskFacts): boolean {
    return ifComputable(() => this.#planner.watches({ watch, id: 0 }, task, this.#asked.at), false);
  }

  #details(task: TaskFacts): DigestDetails {
    this.#turnTo(task);
    return (this.#known ??= this.#asked.detailsOf(task.id));
  }

  /** Working days of its owner since an instant, or since it came to them; none without an owner. */
  #ownerDays(task: TaskFacts, since: InstantMs | null): number {
    const owner = task.ownerId === null ? undefined : this.#planner.facts.people.get(task.ownerId);
    return owner ? daysSince(owner, since ?? this.#details(task).assignedAt, this.#asked.at) : 0;
  }

  #isOverdue(task: TaskFacts): boolean {
    if (!canBeOverdue(task)) return false;
    const dueAt = this.#dueMoment(task);
    return dueAt !== null && this.#asked.at >= dueAt;
  }

  /** Open work whose due moment is ahead. */
  #isAhead(task: TaskFacts): boolean {
    return isOpenWork(task) && task.due !== null && this.#asked.at < this.#dueMoment(task)!;
  }

  #dueMoment(task: TaskFacts): InstantMs | null {
    this.#turnTo(task);
    return this.#dueAt;
  }

  #turnTo(task: TaskFacts): void {
    if (this.#task === task) return;
    this.#task = task;
    this.#dueAt = this.#planner.dates.momentOf('due', task);
    this.#known = null;
  }

  #dueDay(task: TaskFacts): Day {
    return dueDayForReader(task.due!, this.#zone(task));
  }

  #zone(task: TaskFacts): Zone {
    return this.#reader?.zone ?? this.#planner.dates.ownerZone(task);
  }

  #today(task: TaskFacts): Day {
    return this.#own?.today ?? this.#zone(task).dayOf(this.#asked.at);
  }

  #lastNext(task: TaskFacts): Day {
    if (this.#own) return this.#own.lastNext;
    const days = this.#planner.dates.workingDaysOf(task);
    return lastOfNext(days, this.#today(task), this.#asked.definition.nextWorkingDays);
  }
}

/** Finished or closed, and still in the list. */
function isDone({ phase, aside }: TaskFacts): boolean {
  return !isOpen(phase) && aside === null;
}

/** The n-th working day after today; today itself on a calendar without working time, where none comes. */
function lastOfNext(days: WorkingDays, today: Day, n: number): Day {
  return ifComputable(() => days.offset(today, n), today);
}

/** After the one, up to and with the other: what happened at the instant of a digest is in it, and not in the next. */
function within(at: InstantMs | null, after: InstantMs, until: InstantMs): boolean {
  return at !== null && at > after && at <= until;
}

function unique(tasks: readonly TaskFacts[]): TaskFacts[] {
  return [...new Set(tasks)];
}
