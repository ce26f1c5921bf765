import { formatDay, parseDay } from '../../time/day.ts';
import type { Moment } from '../../time/instant.ts';
import { zoneNamed } from '../../time/zone.ts';
import type { Unseen, Phase, Priority, FieldValue } from '../../task/model.ts';
import type { TaskDetails } from '../../task/details.ts';
import type { TaskFacts } from '../facts/facts.ts';

/** What acts can change of a task, each value as a text. */
export type FlatTask = Record<string, string | null>;

/** What one act changed: the values as they were and as they became. */
export interface OwnChange {
  before: FlatTask;
  after: FlatTask;
}

export function flatten(task: TaskFacts, details: TaskDetails): FlatTask {
  const flat: FlatTask = {
    phase: task.phase,
    status: String(details.statusId),
    priority: task.priority,
    percent: text(details.percent),
    owner: text(task.ownerId),
    due: momentText(task.due),
    start: momentText(task.start),
    project: text(task.projectId),
    section: text(details.sectionId),
    aside: task.aside,
    tags: JSON.stringify(details.tags)
  };
  for (const [id, value] of details.own) flat[`own ${id}`] = JSON.stringify(value);
  return flat;
}

/** The values that differ between two states; null when none does. */
export function changeBetween(before: FlatTask, after: FlatTask): OwnChange | null {
  const change: OwnChange = { before: {}, after: {} };
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    if ((before[key] ?? null) === (after[key] ?? null)) continue;
    change.before[key] = before[key] ?? null;
    change.after[key] = after[key] ?? null;
  }
  return Object.keys(change.after).length > 0 ? change : null;
}

/**
 * A task as it would be had a run changed nothing of it, wherever a value is still what the run made it: what a run changes itself never
 * makes its own later steps untrue.
 */
export function withoutOwn(
  task: TaskFacts,
  details: TaskDetails,
  changes: readonly OwnChange[]
): { task: TaskFacts; details: TaskDetails } {
  if (changes.length === 0) return { task, details };
  const flat = flatten(task, details);
  for (const { before, after } of [...changes].reverse()) {
    for (const [key, value] of Object.entries(after))
      if ((flat[key] ?? null) === value) flat[key] = before[key] ?? null;
  }
  return unflatten(task, details, flat);
}

function unflatten(
  task: TaskFacts,
  details: TaskDetails,
  flat: FlatTask
): { task: TaskFacts; details: TaskDetails } {
  const own = new Map<number, FieldValue>();
  for (const [key, value] of Object.entries(flat))
    if (key.startsWith('own ') && value !== null)
      own.set(Number(key.slice(4)), JSON.parse(value) as FieldValue);
  return {
    task: {
      ...task,
      phase: flat.phase as Phase,
      priority: flat.priority as Priority,
      ownerId: number(flat.owner),
      due: momentOf(flat.due),
      start: momentOf(flat.start),
      projectId: number(flat.project),
      aside: flat.aside as Unseen | null
    },
    details: {
      ...details,
      statusId: Number(flat.status),
      percent: number(flat.percent),
      sectionId: number(flat.section),
      tags: JSON.parse(flat.tags ?? '[]') as string[],
      own
    }
  };
}

function text(value: number | null): string | null {
  return value === null ? null : String(value);
}

function number(value: string | null | undefined): number | null {
  return value == null ? null : Number(value);
}

function momentText(moment: Moment | null): string | null {
  return moment && [formatDay(moment.day), moment.minute ?? '', moment.zone?.name ?? ''].join('|');
}

function momentOf(written: string | null | undefined): Moment | null {
  if (!written) return null;
  const [date = '', minute = '', zone = ''] = written.split('|');
  return {
    day: parseDay(date),
    minute: minute === '' ? null : Number(minute),
    zone: zone === '' ? null : zoneNamed(zone)
  };
}
