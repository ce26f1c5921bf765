import type { DaysView } from './days.ts';
import type { LinkAct } from '../core/message/acts.ts';

/** What the page of a link in a message shows. Times are on the reader's wall. */
export interface ActLinkView {
  act: LinkAct;
  task: string;
  project: string | null;
  due: string | null;
  /** Days left or late in words; null without a due date. */
  left: string | null;
  reader: string;
  /** What was asked, where it is an answer. */
  question: string | null;
  today: string;
  /** The days that its date field counts and shades; null where there is none. */
  days: DaysView | null;
  /** Of another date, or a later reminder: what can be pressed. */
  choices: { words: string; value: string }[];
}
