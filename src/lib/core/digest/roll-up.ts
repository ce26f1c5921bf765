import { canBeOverdue, isOpenWork, type PersonFacts, type TaskFacts } from '../forecast/facts/facts.ts';
import type { Planner } from '../forecast/plan/planner.ts';
import { dueDayForReader } from '../ring/days-left.ts';
import { BANDS, bandOf } from '../ring/overdue.ts';
import type { InstantMs } from '../time/zone.ts';

/** The work of one person in numbers. */
export interface RollUpLine {
  /** Null: nobody owns it. */
  personId: number | null;
  name: string;
  open: number;
  overdue: number;
  /** Of these, by band of working days overdue, in the order of `BANDS`. */
  byBand: number[];
  dueToday: number;
  /** Overdue now less overdue in the last one that was sent; null where that said nothing of them. */
  change: number | null;
}

export interface RollUp {
  /** Worst first; whoever has no open work is left out, unless they had some overdue before. */
  lines: RollUpLine[];
  total: RollUpLine;
}

/** How many were overdue in the last one that was sent, by person (0: nobody’s), and altogether. */
export interface RollUpBefore {
  overdue: Record<number, number>;
  total: number;
}

/**
 * Work by whoever owns it. What several own counts with the first; private work counts, and is named nowhere here. “Today” is each owner’s.
 * @param shown people who have a line even without work
 */
export function rollUp(
  planner: Planner,
  tasks: readonly TaskFacts[],
  shown: readonly PersonFacts[],
  at: InstantMs,
  before: RollUpBefore | null
): RollUp {
  const lines = new Map<number, RollUpLine>();
  const lineOf = (personId: number | null) => {
    const key = personId ?? 0;
    let line = lines.get(key);
    if (!line) {
      const name =
        personId === null ? 'no owner' : (planner.facts.people.get(personId)?.name ?? 'a removed person');
      lines.set(key, (line = { ...emptyLine(personId, name), change: changeOf(key, before) }));
    }
    return line;
  };
  for (const { id, active } of shown) if (active) lineOf(id);
  for (const [id, late] of Object.entries(before?.overdue ?? {})) if (late > 0) lineOf(Number(id) || null);
  const total: RollUpLine = { ...emptyLine(null, 'all'), change: before && -before.total };
  for (const task of tasks) {
    if (!isOpenWork(task)) continue;
    for (const line of [lineOf(task.ownerId), total]) count(planner, task, at, line);
  }
  return {
    lines: [...lines.values()]
      .filter(({ open, change }) => open > 0 || change !== 0)
      .sort(
        (a, b) =>
          b.overdue - a.overdue || oldest(b) - oldest(a) || (a.name < b.name ? -1 : a.name > b.name ? 1 : 0)
      ),
    total
  };
}

/** What the next one compares itself with. */
export function numbersOf({ lines, total }: RollUp): RollUpBefore {
  return {
    overdue: Object.fromEntries(lines.map(({ personId, overdue }) => [personId ?? 0, overdue])),
    total: total.overdue
  };
}

function count(planner: Planner, task: TaskFacts, at: InstantMs, line: RollUpLine): void {
  line.open++;
  const dueAt = planner.dates.momentOf('due', task);
  if (dueAt === null) return;
  if (at >= dueAt) {
    if (!canBeOverdue(task)) return;
    line.overdue++;
    line.byBand[BANDS.indexOf(bandOf(planner.dates.workingDaysOverdue(task, at)))]!++;
    if (line.change !== null) line.change++;
    return;
  }
  const zone = planner.dates.ownerZone(task);
  if (dueDayForReader(task.due!, zone) <= zone.dayOf(at)) line.dueToday++;
}

function emptyLine(personId: number | null, name: string): RollUpLine {
  return { personId, name, open: 0, overdue: 0, byBand: BANDS.map(() => 0), dueToday: 0, change: null };
}

/** Counted up from what was overdue before. */
function changeOf(key: number, before: RollUpBefore | null): number | null {
  return before === null ? null : -(before.overdue[key] ?? 0);
}

/** The worst band in which there is something, as a number. */
function oldest({ byBand }: RollUpLine): number {
  return byBand.reduce((worst, n, band) => (n > 0 ? band : worst), -1);
}
