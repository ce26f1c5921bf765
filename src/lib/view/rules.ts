import type { StarterUse } from '../core/rule/starters/use.ts';
import type { ChannelName } from '../core/channel/channels.ts';
import type { FieldKind } from '../core/task/model.ts';
/** A rule as a row of the list. Times are on the viewer's wall. */
export interface RuleRowView {
  id: number;
  name: string;
  /** Under which name it stands; empty for none. */
  group: string;
  state: string;
  /** Whether a draft stands beside the live version. */
  drafted: boolean;
  /** Which tasks, when, whom it tells and what it changes, in a line. */
  sentence: string;
  /** When its latest notice left; null when none has. */
  last: string | null;
  sent: number;
  failed: number;
  /** For how much of its work it cannot be computed; null where it can be for all of it. */
  faults: RuleFaultView | null;
}

/** Of each rule that rings within a week, by its id: when its next notice leaves, and how many do in the next seven days. */
export type RuleWeeks = Record<number, { next: string; week: number }>;

/** Where a rule that is on cannot be computed. */
export interface RuleFaultView {
  /** Its schedule itself. */
  schedule: boolean;
  /** How many tasks. */
  count: number;
  /** Tasks are being planned: there may be more. */
  pending: boolean;
  /** The first of them. */
  tasks: { id: number; name: string }[];
  /** What is wrong with the first, in a sentence. */
  message: string;
}

interface Named {
  id: number;
  name: string;
}

/** Everything that a rule can name. */
export interface RuleChoices {
  projects: readonly Named[];
  people: readonly Named[];
  groups: readonly Named[];
  statuses: readonly Named[];
  sections: readonly (Named & { projectId: number })[];
  fields: readonly (Named & { kind: FieldKind; choices: readonly string[] })[];
  tags: readonly string[];
  readers: readonly Named[];
  /** Saved lists; with why no rule can look at one. */
  lists: readonly (Named & { unfit: string | null })[];
  templates: readonly { id: number; name: string; subject: string; body: string }[];
  /** Words that other rules were given last, with the name of the rule. */
  lastWords: readonly { rule: string; subject: string; body: string }[];
  rules: readonly Named[];
  /** Channels, with what keeps one from being picked. */
  channels: readonly { channel: ChannelName; unfit: string | null }[];
  /** That of the workspace. */
  zone: string;
  noticeTime: string;
  today: string;
}

/** A version of a rule, with who wrote it and what it says otherwise than the one before. */
export interface RuleVersionView {
  id: number;
  number: number;
  stands: 'live' | 'draft' | null;
  who: string;
  /** On the viewer's wall. */
  when: string;
  differences: { part: string; gone: string[]; added: string[] }[];
}

/** A starter with what it would come to here. */
export interface StarterView {
  key: string;
  /** Under what it stands. */
  use: StarterUse;
  name: string;
  purpose: string;
  sentence: string;
  /** It rings only when something happens. */
  waits: boolean;
  /** A rule of its name is here already. */
  taken: boolean;
}

/** What a starter would come to here. */
export interface StarterWeek {
  key: string;
  watched: number;
  /** Notices in the next seven days. */
  week: number;
  /** What it would change in them. */
  acts: number;
}
