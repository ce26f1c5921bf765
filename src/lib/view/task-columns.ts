/** The columns that the list can show besides the name. */
export const TASK_COLUMNS = {
  owner: { label: 'Owner', width: 'minmax(110px, 1.1fr)', sort: 'owner' },
  due: { label: 'Due', width: 'minmax(112px, 1fr)', sort: 'due' },
  left: { label: 'Days left', width: 'minmax(158px, 1.2fr)', sort: null },
  status: { label: 'Status', width: 'minmax(80px, 0.7fr)', sort: 'status' },
  priority: { label: 'Priority', width: 'minmax(96px, 0.8fr)', sort: 'priority' },
  project: { label: 'Project', width: 'minmax(110px, 1.1fr)', sort: 'project' },
  section: { label: 'Section', width: 'minmax(90px, 0.8fr)', sort: 'section' },
  start: { label: 'Start', width: 'minmax(92px, 0.8fr)', sort: 'start' },
  tags: { label: 'Tags', width: 'minmax(90px, 0.9fr)', sort: null },
  percent: { label: 'Percent', width: '64px', sort: null },
  bell: { label: 'Next bell', width: 'minmax(104px, 0.9fr)', sort: null },
  slips: { label: 'Times postponed', width: '80px', sort: 'slips' },
  created: { label: 'Created', width: 'minmax(104px, 0.9fr)', sort: 'created' },
  touched: { label: 'Last changed', width: 'minmax(104px, 0.9fr)', sort: 'touched' }
} as const satisfies Record<string, { label: string; width: string; sort: string | null }>;
export type ColumnKey = keyof typeof TASK_COLUMNS;

/** What is shown when nothing was chosen, and beside an open task. */
export const USUAL_COLUMNS: readonly ColumnKey[] = ['owner', 'due', 'left', 'status', 'priority', 'project'];
export const NARROW_COLUMNS: readonly ColumnKey[] = ['owner', 'left'];

/** The columns that an address names, in its order; those it does not know are left out. */
export function columnsOf(names: readonly string[] | null): ColumnKey[] {
  if (names === null) return [...USUAL_COLUMNS];
  return names.filter((name): name is ColumnKey => name in TASK_COLUMNS);
}
