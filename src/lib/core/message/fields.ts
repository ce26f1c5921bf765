import { namesOf } from '../names-of.ts';
/** The merge fields that a message may carry: our own typed list, no expressions. */
export const FIELDS = {
  task: { label: 'name of the task', fallback: 'a task' },
  project: { label: 'its project', fallback: 'no project' },
  'in project': { label: '“ in Gauge calibration”; nothing for a task without a project', fallback: '' },
  owner: { label: 'who owns it', fallback: 'no owner' },
  'of owner': { label: '“ of Rui Tavares”; nothing for the recipient’s own task', fallback: '' },
  'first name': { label: 'first name of the recipient', fallback: 'colleague' },
  'full name': { label: 'name of the recipient', fallback: 'colleague' },
  due: { label: 'when it is due, in the recipient’s zone', fallback: 'no due date' },
  start: { label: 'when it starts, in the recipient’s zone', fallback: 'no start date' },
  'days left': { label: '“due in 3 days”, “due today”, “overdue”', fallback: 'without a due date' },
  'how late': { label: '“4 working days overdue”, “overdue since Friday”', fallback: 'not late' },
  'days to start': {
    label: '“starts in 2 days”, “starts today”, “started”',
    fallback: 'without a start date'
  },
  priority: { label: 'its priority', fallback: '' },
  status: { label: 'its status', fallback: '' },
  description: { label: 'its description', fallback: '' },
  link: { label: 'a link to the task', fallback: '' },
  count: { label: 'how many tasks the message is about', fallback: '1' },
  reason: { label: 'why this message is sent now', fallback: '' }
} as const;

export type FieldName = keyof typeof FIELDS;

/** What outside people may read of a task; whose it is has no value for them. */
export const OUTSIDE_FIELDS: readonly FieldName[] = [
  'task',
  'project',
  'in project',
  'of owner',
  'due',
  'days left',
  'first name',
  'full name'
];

export const FIELD_NAMES = namesOf(FIELDS);

/** The values of one message; a field that is absent shows its fallback. */
export type FieldValues = Partial<Record<FieldName, string>>;
