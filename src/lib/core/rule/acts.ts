import type { Unit } from '../ring/lead.ts';
import type { Priority } from '../task/model.ts';

/** A date as a rule writes it down, counted on the calendar of the task's owner from the day of the act. */
export type DateExpression =
  | { from: 'today' | 'due' | 'start'; n: number; unit: Extract<Unit, 'day' | 'week' | 'month' | 'workday'> }
  /** The weekday of the due date, in the week after today's. */
  | { weekday: 'next week' }
  | { none: true };

/** Who a task goes to. */
export type AssigneeChoice =
  | { who: 'owner' | 'keeper' | 'actor' | 'creator' | 'manager' | 'above' }
  | { who: 'role'; role: string }
  | { who: 'person'; id: number };

/** One change that a rule makes. */
export type Act =
  | { act: 'set status'; statusId: number }
  | { act: 'set priority'; priority: Priority }
  | { act: 'set percent'; percent: number | null }
  | { act: 'set field'; fieldId: number; value: string | number | boolean | null }
  | { act: 'set due' | 'set start'; date: DateExpression; time: string | null }
  | { act: 'assign'; to: AssigneeChoice }
  | { act: 'unassign' }
  | { act: 'add tag' | 'remove tag'; tag: string }
  | { act: 'move' | 'copy'; projectId: number | null; sectionId: number | null }
  | { act: 'comment'; text: string }
  | {
      act: 'follow-up';
      name: string;
      description: string;
      owner: AssigneeChoice | null;
      due: DateExpression;
      time: string | null;
      priority: Priority | null;
    }
  | { act: 'create section'; name: string }
  | { act: 'archive' | 'bin' }
  | { act: 'park'; review: DateExpression }
  | { act: 'update open tasks'; statusId: number }
  | { act: 'ring another'; ruleId: number };

export const ACT_NAMES = [
  'set status',
  'set priority',
  'set percent',
  'set field',
  'set due',
  'set start',
  'assign',
  'unassign',
  'add tag',
  'remove tag',
  'move',
  'copy',
  'comment',
  'follow-up',
  'create section',
  'archive',
  'bin',
  'park',
  'update open tasks',
  'ring another'
] as const satisfies readonly Act['act'][];

/** Acts that leave something behind each time: done once for a task in its round. */
export const ONCE_ONLY: readonly Act['act'][] = ['copy', 'follow-up', 'create section'];
