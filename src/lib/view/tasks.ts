import type { Phase, Priority } from '../core/rule/model.ts';

/** A task as a row of the list. */
export interface TaskRowView {
  id: number;
  name: string;
  project: string | null;
  owner: string | null;
  ownerPlace: string | null;
  status: string;
  phase: Phase;
  priority: Priority;
  /** 0 to 3 notches. */
  notches: number;
  /** The due date as written, `Thu 5 Mar` with its time and place where it has one; null without. */
  due: string | null;
  overdue: boolean;
  /** Days left or late in words; null without a due date or when the work is done. */
  left: string | null;
  slips: number;
  /** Seen by its owner alone. */
  private: boolean;
}

/** What the form of a task holds. */
export interface TaskFormView {
  name: string;
  description: string;
  projectId: number | null;
  ownerId: number | null;
  statusId: number | null;
  priority: Priority;
  dueDate: string | null;
  dueTime: string | null;
  startDate: string | null;
  startTime: string | null;
  private: boolean;
}

/** What can be chosen in the form of a task. */
export interface TaskChoices {
  projects: { id: number; name: string }[];
  people: { id: number; name: string; place: string }[];
  statuses: { id: number; name: string }[];
}
