import type { Priority, FieldValue, SetAside } from './model.ts';
import type { Moment } from '../time/instant.ts';
import type { Day } from '../time/day.ts';

/** What an act changes of a task; absent fields stay. */
export interface TaskPatch {
  statusId?: number;
  priority?: Priority;
  percent?: number | null;
  ownerId?: number | null;
  due?: Moment | null;
  start?: Moment | null;
  projectId?: number | null;
  sectionId?: number | null;
  addTag?: string;
  removeTag?: string;
  own?: { fieldId: number; value: FieldValue | null };
  setAside?: SetAside;
  reviewDay?: Day;
}

/** A task that an act makes. */
export interface NewTask {
  name: string;
  description: string;
  projectId: number | null;
  sectionId: number | null;
  ownerId: number | null;
  due: Moment | null;
  start: Moment | null;
  priority: Priority;
}
