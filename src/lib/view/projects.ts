import type { ProjectState } from '../core/task/model.ts';
import type { RuleReasonView } from './task-detail.ts';
import type { TaskRowView } from './tasks.ts';

/** A project as a row of the list. */
export interface ProjectRowView {
  id: number;
  name: string;
  state: ProjectState;
  register: boolean;
  place: string | null;
  pinned: boolean;
  members: string[];
  open: number;
  done: number;
  overdue: number;
  /** Rules that cover it. */
  rules: number;
}

export interface ProjectFormView {
  name: string;
  description: string;
  zone: string;
  calendarId: number | null;
  pinned: boolean;
  state: ProjectState;
  register: boolean;
}

/** A project as it opens. */
export interface ProjectDetailView {
  row: ProjectRowView;
  values: ProjectFormView;
  members: { id: number; personId: number; name: string; place: string; role: string }[];
  sections: { id: number; name: string; tasks: number }[];
  /** Its open tasks, by due date, as many as stand on the page; the list has the rest. */
  tasks: TaskRowView[];
  /** Tasks of other projects that were connected with it. */
  connected: TaskRowView[];
  contacts: string[];
  /** Every rule that is on, and whether it covers the project. */
  rules: RuleReasonView[];
}
