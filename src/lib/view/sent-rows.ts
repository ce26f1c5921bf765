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
  tags: [],
  subtasks: { all: 0, done: 0 },
  bell: null,
  recurring: false,
  private: false,
  setAside: null,
  asideUntil: null,
  editable: true,
  group: null
} satisfies Partial<TaskRowView>;

/** What is as usual, as text: a list without anything in it is as usual, too. */
const AS_TEXT = new Map(Object.entries(USUAL).map(([key, value]) => [key, JSON.stringify(value)]));

/** A row as it is sent with a page: without what is as usual. */
export type SentRow = Omit<TaskRowView, keyof typeof USUAL> & Partial<TaskRowView>;

/** A row without what is as usual. */
export function sentRow(row: TaskRowView): SentRow {
  const told = Object.entries(row).filter(([key, value]) => JSON.stringify(value) !== AS_TEXT.get(key));
  return Object.fromEntries(told) as SentRow;
}

/** The whole row again. */
export function wholeRow(sent: SentRow): TaskRowView {
  return { ...structuredClone(USUAL), ...sent };
}

/** Something that has rows, with each of them made into another. */
export function withRows<T extends { rows: readonly A[] }, A, B>(
  of: T,
  make: (row: A) => B
): Omit<T, 'rows'> & { rows: B[] } {
  return { ...of, rows: of.rows.map(make) };
}
