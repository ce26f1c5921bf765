import type { Moment } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';
import type { Acknowledgement, LadderPause } from '../ladder/pauses.ts';
import type { FieldValue } from './model.ts';

/** What rules may ask of a task besides what every forecast needs: read only for those that do. */
export interface TaskDetails {
  description: string;
  statusId: number;
  sectionId: number | null;
  parentId: number | null;
  createdAt: InstantMs;
  createdBy: number | null;
  /** When it came to its owner. */
  assignedAt: InstantMs;
  /** The last change or comment by a person. */
  touchedAt: InstantMs;
  finishedAt: InstantMs | null;
  closedAt: InstantMs | null;
  /** Since when it is in its phase. */
  phaseSince: InstantMs;
  reviewDate: Moment | null;
  /** When it was parked, archived or binned; null in the list. */
  asideAt: InstantMs | null;
  percent: number | null;
  keep: boolean;
  logTime: boolean;
  /** Of a recurring task: at least how many days lie between its dates; null for one that does not come back. */
  rhythmDays: number | null;
  tags: readonly string[];
  /** In the present round. */
  slips: number;
  openSubtasks: number;
  minutesLogged: number;
  /** Somebody has acknowledged it, in the present round and with the present due date. */
  acknowledged: boolean;
  /** What was said of it in the present round and with the present due date, the oldest first. */
  acknowledgements: readonly Acknowledgement[];
  /** By when it was promised last, in the present round and with the present due date. */
  promiseDate: Moment | null;
  /** When its due date was last moved; 0 where it never was. */
  dueSince: InstantMs;
  /** When it waited for others or was finished. */
  stops: readonly LadderPause[];
  /** Values of the workspace's own fields, by their ids. */
  own: ReadonlyMap<number, FieldValue>;
  /** Outside contacts linked to it. */
  contactIds: readonly number[];
  /** Its first owner has placed it on their Desk since it came to them. */
  placed: boolean;
  /** When its first owner last looked at their Desk; null where they never have. */
  ownerLookedAt: InstantMs | null;
}

/** A task about which nothing more is known. */
export const NO_DETAILS: TaskDetails = {
  description: '',
  statusId: 0,
  sectionId: null,
  parentId: null,
  createdAt: 0,
  createdBy: null,
  assignedAt: 0,
  touchedAt: 0,
  finishedAt: null,
  closedAt: null,
  phaseSince: 0,
  reviewDate: null,
  asideAt: null,
  percent: null,
  keep: false,
  logTime: false,
  rhythmDays: null,
  tags: [],
  slips: 0,
  openSubtasks: 0,
  minutesLogged: 0,
  acknowledged: false,
  acknowledgements: [],
  promiseDate: null,
  dueSince: 0,
  stops: [],
  own: new Map(),
  contactIds: [],
  placed: false,
  ownerLookedAt: null
};
