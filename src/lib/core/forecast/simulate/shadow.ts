import type { Facts, MadeTask, TaskFacts } from '../facts/facts.ts';
import type { NewTask, TaskPatch } from '../../task/patch.ts';
import { NO_DETAILS, type TaskDetails } from '../../task/details.ts';
import { type FieldValue, isOpen, type Phase } from '../../task/model.ts';
import type { InstantMs } from '../../time/zone.ts';
import { ORDINARY_TASK } from '../facts/facts.ts';
import { folded } from '../../rule/compile-condition.ts';

/** A task as a forecast imagines it after an act. */
export interface Shadow {
  task: TaskFacts;
  details: TaskDetails;
}

/** What an act would make of a task. */
export function patched({ task, details }: Shadow, patch: TaskPatch, at: InstantMs, facts: Facts): Shadow {
  const phase =
    patch.statusId === undefined ? task.phase : (facts.statuses.get(patch.statusId) ?? task.phase);
  const ownerId =
    patch.setAside === 'parked' ? null : patch.ownerId === undefined ? task.ownerId : patch.ownerId;
  const finished = isOpen(task.phase) && !isOpen(phase);
  const reopened = !isOpen(task.phase) && isOpen(phase);
  const projectId = patch.projectId === undefined ? task.projectId : patch.projectId;
  const after: TaskFacts = {
    ...task,
    phase,
    ownerId,
    projectId,
    priority: patch.priority ?? task.priority,
    due: patch.due === undefined ? task.due : patch.due,
    start: patch.start === undefined ? task.start : patch.start,
    aside: patch.setAside ?? task.aside
  };
  return {
    task: after,
    details: {
      ...ladderAfter(task, after, details, at),
      statusId: patch.statusId ?? details.statusId,
      percent: patch.percent === undefined ? details.percent : patch.percent,
      sectionId:
        patch.sectionId !== undefined
          ? patch.sectionId
          : projectId === task.projectId
            ? details.sectionId
            : null,
      tags: tagsAfter(details.tags, patch),
      own: ownAfter(details.own, patch),
      finishedAt: finished ? at : reopened ? null : details.finishedAt,
      closedAt: phase === 'closed' ? (details.closedAt ?? at) : null,
      asideAt: patch.setAside === undefined || patch.setAside === task.aside ? details.asideAt : at,
      phaseSince: phase === task.phase ? details.phaseSince : at,
      reviewDate:
        patch.reviewDay === undefined
          ? details.reviewDate
          : { day: patch.reviewDay, minute: null, zone: null }
    }
  };
}

/** What a change of a task makes of the clock of its ladders: it starts again with another owner or date, and stands still in some phases. */
export function ladderAfter(
  before: TaskFacts,
  after: TaskFacts,
  details: TaskDetails,
  at: InstantMs
): TaskDetails {
  const moved = before.due?.day !== after.due?.day;
  return {
    ...details,
    assignedAt: before.ownerId === after.ownerId ? details.assignedAt : at,
    dueSince: moved ? at : details.dueSince,
    // What was said of the old date is not said of the new one.
    acknowledgements: moved ? [] : details.acknowledgements,
    acknowledged: !moved && details.acknowledged,
    promiseDate: moved ? null : details.promiseDate,
    stops: before.phase === after.phase ? details.stops : stopsAfter(details.stops, after.phase, at)
  };
}

function stopsAfter(stops: TaskDetails['stops'], phase: Phase, at: InstantMs): TaskDetails['stops'] {
  const ended = stops.map((stop) => (stop.until === Infinity ? { ...stop, until: at } : stop));
  if (phase === 'stuck on others') ended.push({ from: at, until: Infinity, why: 'waits for others' });
  else if (!isOpen(phase)) ended.push({ from: at, until: Infinity, why: 'finished' });
  return ended;
}

function tagsAfter(tags: readonly string[], { addTag, removeTag }: TaskPatch): readonly string[] {
  if (addTag !== undefined)
    return tags.some((tag) => folded(tag) === folded(addTag)) ? tags : [...tags, addTag.trim()].sort();
  return removeTag === undefined ? tags : tags.filter((tag) => folded(tag) !== folded(removeTag));
}

function ownAfter(own: ReadonlyMap<number, FieldValue>, patch: TaskPatch): ReadonlyMap<number, FieldValue> {
  if (!patch.own) return own;
  const { fieldId, value } = patch.own;
  const after = new Map(own);
  if (value === null) after.delete(fieldId);
  else after.set(fieldId, value);
  return after;
}

/**
 * A task that an act would make: it waits to start, in the first status.
 * @param made by which rules it would be made
 */
export function imagined(
  id: number,
  task: NewTask,
  made: MadeTask,
  at: InstantMs,
  { statuses }: Facts
): Shadow {
  const [status] = [...statuses].find(([, phase]) => phase === 'waiting to start') ?? [0];
  return {
    task: {
      ...ORDINARY_TASK,
      made,
      id,
      name: task.name,
      projectId: task.projectId,
      ownerId: task.ownerId,
      due: task.due,
      start: task.start,
      priority: task.priority,
      phase: 'waiting to start',
      round: 0,
      private: false
    },
    details: {
      ...NO_DETAILS,
      description: task.description,
      statusId: status,
      sectionId: task.sectionId,
      createdAt: at,
      assignedAt: at,
      touchedAt: at,
      phaseSince: at
    }
  };
}
