import { groupBy } from '../core/group-by.ts';
import { MS_PER_DAY } from '../core/time/day.ts';
import type { BellKind, BellView } from './models.ts';

/** Of bells that come again and again in the same way so many are listed. */
const LISTED = 3;

const LATE: readonly BellKind[] = ['overdue', 'late bell'];

/** How far the line of a task reaches at most, in days before and after now. */
export const LINE_DAYS = { back: 45, ahead: 90 };

/** What follows a listed bell in the same way: from the same rule, of the same kind, to the same person. */
export interface FurtherBells {
  /** The last that is listed. */
  afterKey: string;
  count: number;
  /** When the last of them is, on the recipient's wall: `Thu 8 Apr 2027, 10:30`. */
  until: string;
}

/** Bells that stand on a task's line and in no row: those that are overdue, or the others. */
export interface BellTicks {
  late: boolean;
  atMs: number[];
}

/** Bells as a list that says nothing twice. */
export interface BellsInShort {
  listed: BellView[];
  further: FurtherBells[];
  /** Those that are not listed. */
  rest: BellView[];
}

/**
 * The first bells of each series; the rest are counted. A task that waits for others is not chased on any working day of
 * the year to come: hundreds of rows that say so hide the one that says something else. No line is made for a single bell: that is listed, too.
 * @param bells in the order in which they leave
 */
export function inShort(bells: readonly BellView[]): BellsInShort {
  const rest = new Set<BellView>();
  const further: FurtherBells[] = [];
  for (const series of groupBy(bells, seriesOf).values()) {
    const unlisted = series.slice(LISTED);
    if (unlisted.length < 2) continue;
    for (const bell of unlisted) rest.add(bell);
    const afterKey = series[LISTED - 1]!.key;
    further.push({ afterKey, count: unlisted.length, until: unlisted.at(-1)!.time.there });
  }
  return { listed: bells.filter((bell) => !rest.has(bell)), further, rest: [...rest] };
}

function seriesOf({ ruleId, taskId, lead, readerId, recipientId, kind, unrung }: BellView): string {
  return JSON.stringify([ruleId, taskId, lead, readerId, recipientId, kind, unrung]);
}

/** Bells as ticks on the line of a task, as far as it reaches, and how many lie beyond. @param nowMs the workspace clock */
export function ticksOf(bells: readonly BellView[], nowMs: number): { ticks: BellTicks[]; beyond: number } {
  const until = nowMs + LINE_DAYS.ahead * MS_PER_DAY;
  const within = bells.filter(
    ({ time }) => time.atMs >= nowMs - LINE_DAYS.back * MS_PER_DAY && time.atMs <= until
  );
  const ticks = [true, false].map((late) => ({
    late,
    atMs: within.filter(({ kind }) => LATE.includes(kind) === late).map(({ time }) => time.atMs)
  }));
  return {
    ticks: ticks.filter(({ atMs }) => atMs.length > 0),
    beyond: bells.filter(({ time }) => time.atMs > until).length
  };
}
