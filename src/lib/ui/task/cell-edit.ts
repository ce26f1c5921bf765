import type { TaskFormView } from '$lib/view/tasks.ts';

/** A change made in place: what is to be written, and what was shown. */
export interface CellEdit {
  id: number;
  patch: Partial<TaskFormView>;
  base: Partial<TaskFormView>;
}
