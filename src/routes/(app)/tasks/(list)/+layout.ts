import { wholeRow, withRows } from '$lib/view/sent-rows.ts';
import type { LayoutLoad } from './$types';

/** Rows are whole again, and the two shapes that are drawn with cards are loaded only where one of them is asked for. */
export const load: LayoutLoad = async ({ data }) => ({
  ...data,
  page: data.page && withRows(data.page, wholeRow),
  columns: data.columns && {
    ...data.columns,
    columns: data.columns.columns.map((column) => withRows(column, wholeRow))
  },
  days: data.days && { ...data.days, days: data.days.days.map((day) => withRows(day, wholeRow)) },
  TaskColumns: data.columns ? (await import('$lib/ui/task/TaskColumns.svelte')).default : null,
  TaskDays: data.days ? (await import('$lib/ui/task/TaskDays.svelte')).default : null
});
