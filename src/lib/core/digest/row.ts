import type { TaskFacts } from '../forecast/facts/facts.ts';
import { PRIORITIES } from '../task/model.ts';
import type { InstantMs } from '../time/zone.ts';

/** A task as it stands in a digest. */
export interface DigestRow {
  task: TaskFacts;
  /** The due moment; null without a date. */
  dueAt: InstantMs | null;
  /** Working days overdue; 0 while it is not. */
  workdays: number;
}

/** Of overdue rows: working age, priority, due moment, id. */
export function worstFirst(a: DigestRow, b: DigestRow): number {
  return b.workdays - a.workdays || heavierFirst(a, b) || a.dueAt! - b.dueAt! || a.task.id - b.task.id;
}

/** Due moment, what has none last; priority, id. */
export function soonestFirst(a: DigestRow, b: DigestRow): number {
  const [x, y] = [a.dueAt ?? Number.MAX_SAFE_INTEGER, b.dueAt ?? Number.MAX_SAFE_INTEGER];
  return x - y || heavierFirst(a, b) || a.task.id - b.task.id;
}

/** By priority alone. */
export function heavierFirst(a: DigestRow, b: DigestRow): number {
  return PRIORITIES.indexOf(b.task.priority) - PRIORITIES.indexOf(a.task.priority);
}
