import type { BellKind } from './models.ts';

/** A notice or a digest that comes to somebody in the next days. */
export interface ToldLine {
  /** The same before and after a change of what they are told. */
  key: string;
  /** When it leaves, in ms since the epoch. */
  atMs: number;
  /** On their own wall: `YYYY-MM-DD`, “Thu 5 Mar”, “09:00”. */
  date: string;
  day: string;
  time: string;
  kind: BellKind | 'digest';
  /** The task, or the digest. */
  what: string;
  taskId: number | null;
  /** The rule; null for a digest. */
  rule: string | null;
  /** By which way: “mail”, “in the app”. */
  by: string;
  why: string[];
}

/** What comes to somebody in the next seven days, as things stand. */
export interface ToldWeek {
  lines: ToldLine[];
  count: number;
}

/** What a change of what somebody is told would do to those days. */
export interface ToldEffect {
  moved: ToldChange[];
  added: ToldChange[];
  gone: ToldChange[];
  otherWay: ToldChange[];
  /** Of each, with those that are not listed. */
  counts: Record<'moved' | 'added' | 'gone' | 'otherWay' | 'same', number>;
}

export interface ToldChange {
  key: string;
  kind: ToldLine['kind'];
  what: string;
  rule: string | null;
  /** When, or by which way; null where there was none. */
  before: string | null;
  after: string | null;
}

/** How long before each due date somebody wants to be reminded, in words. */
export interface StandingView {
  leads: { id: number; words: string }[];
  /** What can be added. */
  offered: { value: string; words: string }[];
  /** Whether nothing rings, because the rule of reminders is off. */
  isOff: boolean;
}

/** A digest that they read. */
export interface DigestTold {
  id: number;
  name: string;
  when: string;
  next: string | null;
}
