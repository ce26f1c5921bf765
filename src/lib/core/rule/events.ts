/** What can happen to a task, or a project, that a rule listens to. */
export const RULE_EVENTS = [
  'created',
  'assigned',
  'phase changed',
  'status changed',
  'field changed',
  'finished',
  'reopened',
  'closed',
  're-dated',
  'became overdue',
  'commented',
  'time logged',
  'last open subtask finished',
  'archived',
  'restored',
  'question unanswered',
  'acknowledged',
  'promise asked',
  'promise broken',
  'project called off',
  'project closed'
] as const;
export type RuleEventName = (typeof RULE_EVENTS)[number];

export const EVENT_WORDS: Record<RuleEventName, string> = {
  created: 'a task is created',
  assigned: 'a task is assigned',
  'phase changed': 'a phase changes',
  'status changed': 'a status changes',
  'field changed': 'a field changes',
  finished: 'a task is finished',
  reopened: 'a task is reopened',
  closed: 'a task is closed',
  're-dated': 'a due date moves',
  'became overdue': 'a task becomes overdue',
  commented: 'somebody comments',
  'time logged': 'time is logged',
  'last open subtask finished': 'the last open subtask is finished',
  archived: 'a task is archived',
  restored: 'a task is returned',
  'question unanswered': 'a question stays unanswered',
  acknowledged: 'somebody acknowledges',
  'promise asked': 'a promise later than the due date needs approval',
  'promise broken': 'a promised date is missed',
  'project called off': 'its project is called off',
  'project closed': 'its project is closed'
};

/** One thing that happened to a task in a change, with what it was and what it became. */
export interface RuleEvent {
  name: RuleEventName;
  taskId: number;
  /** Of a phase, status or field that changed. */
  before: string | number | null;
  after: string | number | null;
  /** Of a field that changed: a column's name, or the id of a field of the workspace's own. */
  field?: string | number;
}
