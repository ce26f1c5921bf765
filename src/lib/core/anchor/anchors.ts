import { namesOf } from '../names-of.ts';
import { CodedError } from '../errors.ts';
import type { AnchorKind } from '../ring/lead.ts';
import type { DateAnchor, HappenedAnchor } from './descriptor.ts';

/** A date of the task itself. @param name as in “the due date” and “no due date” */
function date(
  name: string,
  marks: AnchorKind,
  rest: Partial<DateAnchor> & Pick<DateAnchor, 'read'>
): DateAnchor {
  return {
    ...{
      day: `${name} date`,
      moment: `${name} date`,
      stands: `Its ${name} date is`,
      lacking: `no ${name} date`
    },
    ...{ happened: false, marks, announced: true, ofTask: false, offered: true, movedBy: [], shows: {} },
    ...rest
  };
}

/** Something that happened. @param done as in “the day it was created” */
function happened(
  done: string,
  movedBy: readonly string[],
  rest: Partial<HappenedAnchor> & Pick<HappenedAnchor, 'read'>
): HappenedAnchor {
  return {
    ...{ day: `day it ${done}`, moment: `time it ${done}`, stands: `It ${done} on` },
    ...{ lacking: 'nothing to count from yet', happened: true, offered: true, movedBy, shows: {} },
    ...rest
  };
}

const due = date('due', 'due', {
  moment: 'due time',
  stands: 'It is due on',
  ofTask: true,
  movedBy: ['due'],
  read: (task) => task.due
});

/** Everything that a ring time can be counted from, by its name. */
export const ANCHORS = {
  due,
  start: date('start', 'start', {
    ...{ moment: 'start', stands: 'It starts on', ofTask: true, movedBy: ['start'] },
    read: (task) => task.start
  }),
  'remind on': date('reminder', 'start', {
    ...{ announced: false, ofTask: true, movedBy: ['remind on'] },
    read: (task) => task.remindOn
  }),
  'review date': date('review', 'due', {
    movedBy: ['review date'],
    // What has one is parked.
    shows: { unseen: 'parked' },
    read: ({ id }, detailsOf) => detailsOf(id).reviewDate
  }),
  created: happened('was created', ['created'], { read: ({ id }, detailsOf) => detailsOf(id).createdAt }),
  assigned: happened('was assigned', ['owner'], {
    lacking: 'no owner',
    read: ({ id, ownerId }, detailsOf) => (ownerId === null ? null : detailsOf(id).assignedAt)
  }),
  'last touched': happened('was last changed', ['last touched'], {
    moment: 'last change',
    read: ({ id }, detailsOf) => detailsOf(id).touchedAt
  }),
  finished: happened('was finished', ['status'], {
    shows: { phases: ['finished', 'closed'] },
    read: ({ id }, detailsOf) => detailsOf(id).finishedAt
  }),
  closed: happened('was closed', ['status'], {
    shows: { phases: ['closed'] },
    read: ({ id }, detailsOf) => detailsOf(id).closedAt
  }),
  'phase entered': happened('changed its phase', ['status'], {
    read: ({ id }, detailsOf) => detailsOf(id).phaseSince
  }),
  /** Of a field of the workspace's own; the lead says which. */
  'own date': date('', 'start', {
    ...{
      day: 'date of its field',
      moment: 'date of its field',
      stands: 'The date of its field is',
      lacking: 'no date'
    },
    read: () => null
  }),
  /** When another ring time of the rule last rang; the lead says which. */
  'earlier ring': happened('', ['earlier ring'], {
    ...{ day: 'day of the earlier ring', moment: 'earlier ring', stands: 'The earlier ring was on' },
    read: () => null
  }),
  acknowledged: happened('', ['acknowledged'], {
    ...{ day: 'day somebody acknowledged it', moment: 'time somebody acknowledged it' },
    stands: 'Somebody acknowledged it on',
    read: ({ id }, detailsOf) => detailsOf(id).acknowledgements.at(-1)?.at ?? null
  }),
  'promise date': date('promised', 'due', {
    ...{ moment: 'end of the promised date', movedBy: ['promise date'] },
    read: ({ id }, detailsOf) => detailsOf(id).promiseDate
  }),
  /** The due date, as a ladder counts from it: its clock starts again with another date or owner. What is no work is never late. */
  ladder: {
    ...due,
    ofTask: false,
    offered: false,
    movedBy: ['due', 'owner'],
    read: (task) => (task.register ? null : task.due)
  }
} satisfies Record<string, DateAnchor | HappenedAnchor>;

export type LeadAnchor = keyof typeof ANCHORS;
export const LEAD_ANCHORS = namesOf(ANCHORS);

/** Dates that stand on the task itself. */
export type TaskDate = 'due' | 'start' | 'remind on';
export const TASK_DATES = LEAD_ANCHORS.filter((name): name is TaskDate => {
  const anchor = ANCHORS[name];
  return !anchor.happened && anchor.ofTask;
});

/**
 * Refuses to count back from what is not known before it happens, and offers the due date.
 * @throws CodedError `anchor-only-after`
 * @example checkAnchor('finished', -2) // “Nothing can be counted back from the day it was finished …”
 */
export function checkAnchor(name: LeadAnchor, n: number): void {
  if (n < 0 && ANCHORS[name].happened)
    throw new CodedError('anchor-only-after', { what: ANCHORS[name].day }, 'offset.n');
}
