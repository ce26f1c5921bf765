import type { SweepActName, SweepRunState } from '../core/sweep/model.ts';

/** A sweep as a row of the list. Times are on the viewer's wall. */
export interface SweepRowView {
  id: number;
  name: string;
  act: SweepActName;
  /** `by hand` for one without a schedule. */
  state: 'on' | 'off' | 'by hand';
  /** The whole of it as one sentence. */
  sentence: string;
  /** When its list is sent, and when it runs; null when none is planned. */
  next: { list: string; runs: string } | null;
  /** Whose list is made, and that has not run. */
  ahead: SweepRunRowView | null;
  /** Its newest run; null when it never ran. */
  last: SweepRunRowView | null;
}

/** A run as a row of reports. */
export interface SweepRunRowView {
  id: number;
  sweep: string;
  /** The instant that it was computed for. */
  at: string;
  state: SweepRunState;
  /** In words. */
  standing: string;
  reason: string | null;
  /** On its list, or done once it ran. */
  count: number;
  /** What was done, in words: “archived”. */
  verb: string;
  left: number;
  /** In the lists before and after, and how long a search took. */
  measured: string | null;
}

/** A task on the list of a run. */
export interface SweepTaskView {
  taskId: number;
  name: string;
  owner: string;
  project: string;
  /** Since when it has been so. */
  since: string;
  ticked: boolean;
  reason: string | null;
}

/** What a run shows of its tasks. */
export const SWEEP_SHOWS = ['list', 'protected', 'left', 'kept'] as const;
export type SweepShow = (typeof SWEEP_SHOWS)[number];

/** A run with its list. */
export interface SweepRunView extends SweepRunRowView {
  sweepId: number | null;
  sentence: string;
  planned: boolean;
  /** Whether it waits for somebody's yes. */
  waits: boolean;
  /** Where it would take a large share of all that stands there: how much, in percent. */
  share: number | null;
  looked: number;
  waiting: number;
  unticked: number;
  done: number;
  kept: number;
  /** Why tasks are protected or were left out, with how many each. */
  reasons: { state: 'protected' | 'left'; reason: string; count: number }[];
  /** Of “still needed?”: what came of the questions. */
  answers: { answer: string; count: number }[];
  startedBy: string | null;
  /** Until when it can be taken back; null when it cannot. */
  undoUntil: string | null;
  show: SweepShow;
  tasks: SweepTaskView[];
  /** From which task the next page goes on; null on the last. */
  next: number | null;
}

/** A run as a bar: when, and how many tasks. */
export interface SweepBar {
  day: string;
  name: string;
  count: number;
}

/** What a sweep would do now. */
export interface SweepNowView {
  taken: number;
  waiting: number;
  protected: number;
}
