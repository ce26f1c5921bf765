import type { Phase, Priority, FieldKind, FieldValue, SetAside, StoredRhythm } from '../core/task/model.ts';
import type { ClosedDayRule } from '../core/ring/lead.ts';
import type { RenewFrom } from '../core/recurrence/renewal.ts';

/** A task as a row of the list, or a card. */
export interface TaskRowView {
  id: number;
  name: string;
  projectId: number | null;
  project: string | null;
  section: string | null;
  ownerId: number | null;
  owner: string | null;
  ownerPlace: string | null;
  /** Owners besides the first. */
  otherOwners: number;
  statusId: number;
  status: string;
  phase: Phase;
  priority: Priority;
  /** The due date as written, `Thu 5 Mar` with its time and place where it has one; null without. */
  due: string | null;
  /** Of a date that is pinned to a place elsewhere: the place and the viewer’s own deadline. */
  dueHere: string | null;
  dueDate: string | null;
  dueTime: string | null;
  overdue: boolean;
  /** Days left or late in words; null without a due date or when the work is done. */
  left: string | null;
  start: string | null;
  slips: number;
  percent: number | null;
  tags: string[];
  /** How many subtasks it has, and how many of them are done. */
  subtasks: { all: number; done: number };
  /** Its next bell, in words; null when none is planned. */
  bell: string | null;
  recurring: boolean;
  created: string;
  touched: string;
  /** Seen by its owner alone. */
  private: boolean;
  setAside: SetAside | null;
  /** When it comes back from being parked, or leaves the bin. */
  asideUntil: string | null;
  /** Whether the viewer may change it. */
  editable: boolean;
  /** The group it stands in; null where nothing is grouped. */
  group: string | null;
}

/** A group of the list, in its order. */
export interface TaskGroupView {
  key: string;
  label: string;
  count: number;
}

/** What the form of a task holds. */
export interface TaskFormView {
  name: string;
  description: string;
  projectId: number | null;
  sectionId: number | null;
  ownerId: number | null;
  otherOwnerIds: number[];
  statusId: number | null;
  priority: Priority;
  dueDate: string | null;
  dueTime: string | null;
  startDate: string | null;
  startTime: string | null;
  remindDate: string | null;
  remindTime: string | null;
  private: boolean;
  tags: string[];
  percent: number | null;
  parentId: number | null;
  logTime: boolean;
  keep: boolean;
  rhythm: StoredRhythm | null;
  renewFrom: RenewFrom;
  renewClosedDay: ClosedDayRule;
  renewCopy: boolean;
  fields: Record<number, FieldValue | null>;
}

export interface FieldView {
  id: number;
  name: string;
  kind: FieldKind;
  choices: string[];
  /** The status that meets it, where its date is a deadline. */
  metByStatusId: number | null;
}

/** What can be chosen in the form of a task. */
export interface TaskChoices {
  projects: { id: number; name: string }[];
  sections: { id: number; projectId: number; name: string }[];
  people: { id: number; name: string; place: string }[];
  statuses: { id: number; name: string; phase: Phase }[];
  fields: FieldView[];
  tags: string[];
}

/** A task with nothing said about it yet. */
export function blankTask(): TaskFormView {
  return {
    name: '',
    description: '',
    projectId: null,
    sectionId: null,
    ownerId: null,
    otherOwnerIds: [],
    statusId: null,
    priority: 'ordinary',
    dueDate: null,
    dueTime: null,
    startDate: null,
    startTime: null,
    remindDate: null,
    remindTime: null,
    private: false,
    tags: [],
    percent: null,
    parentId: null,
    logTime: false,
    keep: false,
    rhythm: null,
    renewFrom: 'due',
    renewClosedDay: 'as-is',
    renewCopy: false,
    fields: {}
  };
}
