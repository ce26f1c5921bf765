import type { Minute } from './plain-people.ts';

/** What somebody does to a task. */
export type Act =
  | { act: 'comment' }
  | { act: 'priority' }
  | { act: 'owner'; to: string }
  | { act: 'due'; day: number }
  | { act: 'stuck'; is: boolean }
  | { act: 'acknowledge'; until: Minute }
  | { act: 'hush'; of: 'task' | 'ladder' | 'schedule' | 'event' | 'person'; who: string; until: Minute }
  | { act: 'no reminder'; who: string; wants: boolean };

export type RuleName = 'ladder' | 'schedule' | 'event';
/** What one person is told by one ring. */
export interface Telling {
  rule: RuleName;
  /** What rang: for a level its number, repeat and date; an occurrence; a comment. */
  ring: string;
  level: number;
  repeat: number;
  who: string;
  as: readonly ('owner' | 'above')[];
  ringAt: Minute;
  /** Null: it waits until the task waits for others no more. */
  leaves: Minute | null;
  /** The date before the closed-day rule. */
  origin: number;
  state: 'waits' | 'left' | 'same moment' | 'quiet' | 'over' | 'passed on';
}
