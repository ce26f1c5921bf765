/** What a column of the file can hold, and the headings by which it is recognised. */
export const COLUMNS = {
  name: { label: 'task', headings: ['task', 'name', 'title', 'task name', 'subject', 'what'] },
  owner: {
    label: 'owner',
    headings: ['owner', 'owner address', 'owner email', 'email', 'assignee', 'person', 'who']
  },
  due: { label: 'due date', headings: ['due', 'due date', 'deadline', 'due on', 'date'] },
  dueTime: { label: 'due time', headings: ['due time', 'time'] },
  start: { label: 'start date', headings: ['start', 'start date', 'starts', 'begins', 'from'] },
  startTime: { label: 'start time', headings: ['start time'] },
  project: { label: 'project', headings: ['project', 'list'] },
  priority: { label: 'priority', headings: ['priority', 'importance'] },
  status: { label: 'status', headings: ['status', 'state', 'phase'] },
  description: { label: 'description', headings: ['description', 'notes', 'details'] },
  tags: { label: 'tags', headings: ['tags', 'labels', 'keywords'] },
  remindOn: { label: 'reminder date', headings: ['remind on', 'reminder date'] },
  reminder: { label: 'reminder', headings: ['reminder', 'remind before', 'lead'] },
  key: { label: 'key', headings: ['key', 'id', 'number', 'reference', 'ref'] }
} as const;

export type ColumnName = keyof typeof COLUMNS;

export const COLUMN_NAMES = Object.keys(COLUMNS) as ColumnName[];

/** Which column of the file holds what; absent: none does. */
export type Mapping = Partial<Record<ColumnName, number>>;

/** Recognises the columns by their headings. */
export function guessMapping(header: readonly string[]): Mapping {
  const headings = header.map((heading) =>
    heading
      .trim()
      .toLowerCase()
      .replace(/[\s_-]+/g, ' ')
  );
  const mapping: Mapping = {};
  for (const column of COLUMN_NAMES) {
    const known: readonly string[] = COLUMNS[column].headings;
    const index = known.map((heading) => headings.indexOf(heading)).find((found) => found >= 0);
    if (index !== undefined) mapping[column] = index;
  }
  return mapping;
}
