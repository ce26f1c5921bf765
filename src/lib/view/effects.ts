/** One thing that a change would move. Times are written with their place. */
export interface EffectLine {
  kind: 'moved' | 'added' | 'gone' | 'due' | 'overdue' | 'ages';
  taskId: number;
  task: string;
  /** Who is told; null for a due moment or an age. */
  who: string | null;
  before: string;
  after: string;
}

/** What a change would do, before it is saved. */
export interface EffectView {
  counts: Record<EffectLine['kind'], number>;
  /** The first lines of each kind. */
  lines: EffectLine[];
  /** How far ahead bells were compared. */
  days: number;
}

/** Whether anything would move at all. */
export function movesAnything({ counts }: EffectView): boolean {
  return Object.values(counts).some((count) => count > 0);
}
