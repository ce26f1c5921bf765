import type { InstantMs } from '../../time/zone.ts';
import type { LadderPause } from '../../ladder/pauses.ts';
import { type Unseen, PHASES, PRIORITIES, type FieldValue } from '../../task/model.ts';
import type { TaskDetails } from '../../task/details.ts';
import type { Moment } from '../../time/instant.ts';
import { zoneNamed } from '../../time/zone.ts';
import type { MadeTask, Silence, TaskFacts } from './facts.ts';

/** A date with its time and place, as JSON carries it. */
type PackedMoment = readonly [day: number, minute: number | null, zone: string | null] | null;

/** A task as JSON carries it: ten thousand of them are about a megabyte. Reminders set on a task are of another rule, and stay behind. */
export type PackedTask = readonly [
  id: number,
  name: string,
  projectId: number | null,
  ownerId: number | null,
  due: PackedMoment,
  start: PackedMoment,
  remindOn: PackedMoment,
  /** Index of its phase, and of its priority. */
  phase: number,
  priority: number,
  round: number,
  aside: Unseen | null,
  /** Bit 0: private; bit 1: an entry of a register; bit 2: somebody has acknowledged it. */
  flags: number,
  otherOwnerIds: readonly number[],
  silences: readonly Silence[],
  made: MadeTask | null
];

export function packTask(task: TaskFacts): PackedTask {
  const { id, name, projectId, ownerId, due, start, remindOn, phase, priority, round, aside } = task;
  return [
    ...([id, name, projectId, ownerId, packMoment(due), packMoment(start), packMoment(remindOn)] as const),
    ...([PHASES.indexOf(phase), PRIORITIES.indexOf(priority), round, aside] as const),
    (task.private ? 1 : 0) | (task.register ? 2 : 0) | (task.acknowledged ? 4 : 0),
    task.otherOwnerIds,
    task.silences,
    task.made
  ];
}

export function unpackTask(packed: PackedTask): TaskFacts {
  const [
    id,
    name,
    projectId,
    ownerId,
    due,
    start,
    remindOn,
    phase,
    priority,
    round,
    aside,
    flags,
    others,
    silences,
    made
  ] = packed;
  return {
    ...{ id, name, projectId, ownerId, round, aside, silences, made },
    due: unpackMoment(due),
    start: unpackMoment(start),
    remindOn: unpackMoment(remindOn),
    phase: PHASES[phase]!,
    priority: PRIORITIES[priority]!,
    private: (flags & 1) === 1,
    register: (flags & 2) === 2,
    acknowledged: (flags & 4) === 4,
    otherOwnerIds: others,
    reminders: []
  };
}

function packMoment(moment: Moment | null): PackedMoment {
  return moment && [moment.day, moment.minute, moment.zone?.name ?? null];
}

function unpackMoment(packed: PackedMoment): Moment | null {
  if (!packed) return null;
  const [day, minute, zone] = packed;
  return minute === null || zone === null
    ? { day, minute: null, zone: null }
    : { day, minute, zone: zoneNamed(zone) };
}

/** What conditions ask of a task besides, as JSON carries it. */
export type PackedDetails = Omit<TaskDetails, 'own' | 'reviewDate' | 'promiseDate' | 'stops'> & {
  own: [fieldId: number, value: FieldValue][];
  reviewDate: PackedMoment;
  promiseDate: PackedMoment;
  /** JSON knows no Infinity: an end that is not known is null. */
  stops: (Omit<LadderPause, 'until'> & { until: InstantMs | null })[];
};

export function packDetails(details: TaskDetails): PackedDetails {
  return {
    ...details,
    own: [...details.own],
    reviewDate: packMoment(details.reviewDate),
    promiseDate: packMoment(details.promiseDate),
    stops: details.stops.map((stop) => ({ ...stop, until: stop.until === Infinity ? null : stop.until }))
  };
}

export function unpackDetails(packed: PackedDetails): TaskDetails {
  return {
    ...packed,
    own: new Map(packed.own),
    reviewDate: unpackMoment(packed.reviewDate),
    promiseDate: unpackMoment(packed.promiseDate),
    stops: packed.stops.map((stop) => ({ ...stop, until: stop.until ?? Infinity }))
  };
}
