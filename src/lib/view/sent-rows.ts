import type { TaskRowView } from './tasks.ts';

/** What most rows of a list have; a page that carries a hundred rows does not say it of each. */
const USUAL = {
  section: null,
  otherOwners: 0,
  priority: 'ordinary',
  due: null,
  dueHere: null,
  dueDate: null,
  dueTime: null,
  overdue: false,
  left: null,
  start: null,
  slips: 0,
  percent: null,
  bell: null,
  recurring: false,
  private: false,
  setAside: null,
  asideUntil: null,
  editable: true,
  group: null
} as const satisfies Partial<TaskRowView>;

/** A row as it is sent with a page: without what is as usual. */
export type SentRow = Omit<TaskRowView, keyof typeof USUAL> & Partial<TaskRowView>;

/** A row without what is as usual. */
export function sentRow(row: TaskRowView): SentRow {
  const told = Object.entries(row).filter(
    ([key, value]) => !(key in USUAL) || value !== USUAL[key as keyof typeof USUAL]
  );
  return Object.fromEntries(told) as SentRow;
}

/** The whole row again. */
export function wholeRow(sent: SentRow): TaskRowView {
  return { ...USUAL, ...sent };
}

/** Something that has rows, with each of them made into another. */
export function withRows<T extends { rows: readonly A[] }, A, B>(
  of: T,
  make: (row: A) => B
): Omit<T, 'rows'> & { rows: B[] } {
  return { ...of, rows: of.rows.map(make) };
}
