import type { AnchorKind } from '../ring/lead.ts';
import type { TaskDetails } from '../task/details.ts';
import type { Phase, Unseen } from '../task/model.ts';
import type { Moment } from '../time/instant.ts';
import type { InstantMs } from '../time/zone.ts';

/** What of a task anchors are read from; the rest is asked only where it is needed. */
export interface Dated {
  id: number;
  due: Moment | null;
  start: Moment | null;
  remindOn: Moment | null;
  ownerId: number | null;
  register: boolean;
}
export type DetailsOf = (taskId: number) => TaskDetails;

interface AnchorBase {
  /** As a day, after “the”: “2 days after the due date”. */
  day: string;
  /** As a moment, after “the”: “2 hours before the due moment”. */
  moment: string;
  /** Before the date and time that it is, in a sentence of its own: “It is due on”. */
  stands: string;
  /** What is said of a task that has none. */
  lacking: string;
  /** What of a task moves it when it changes, as changes are named; of a rule that changes that, it rings others. */
  movedBy: readonly string[];
  /** What a rule that counts from it sees besides open work. */
  shows: { phases?: readonly Phase[]; unseen?: Unseen };
  /** Whether rules choose it from the list of dates; a ladder's is its own. */
  offered: boolean;
}

/** A date of the calendar. */
export interface DateAnchor extends AnchorBase {
  happened: false;
  /** Which moment it stands for when minutes are counted from it: its end or its beginning. */
  marks: AnchorKind;
  /** Whether it can be over, so that what rings late for it says so. */
  announced: boolean;
  /** Whether it stands on the task itself: then reminders can be counted from it, and tasks of the same dates ring alike. */
  ofTask: boolean;
  /** Null where the task lacks it, or where only the lead knows which date it is. */
  read(task: Dated, detailsOf: DetailsOf): Moment | null;
}

/** Something that happened at an instant: known only then, so that nothing can be counted back from it. */
export interface HappenedAnchor extends AnchorBase {
  happened: true;
  /** Null where it has not happened, or where only the lead knows. */
  read(task: Dated, detailsOf: DetailsOf): InstantMs | null;
}

export type Anchor = DateAnchor | HappenedAnchor;
