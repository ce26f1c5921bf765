import { instantOnWall } from '../../core/time/instant.ts';
import type { Moment } from '../../core/time/instant.ts';
import { parseDay } from '../../core/time/day.ts';
import { parseTimeOfDay } from '../../core/time/time-of-day.ts';
import { zoneNamed } from '../../core/time/zone.ts';
import type { Facts, TaskFacts } from '../../core/forecast/facts.ts';
import type { TaskInput } from '../schema/task.ts';
import type { Status } from '../store/projects.ts';

/**
 * A task's facts as an edit would leave them, for asking what it would do before it is saved.
 * @throws CodedError for a date or time that does not exist
 */
export function factsAfter(
  task: TaskFacts,
  patch: Partial<TaskInput>,
  facts: Facts,
  statuses: readonly Status[]
): TaskFacts {
  const ownerId = patch.ownerId === undefined ? task.ownerId : patch.ownerId;
  const projectId = patch.projectId === undefined ? task.projectId : patch.projectId;
  const zone = (ownerId === null ? null : facts.people.get(ownerId)?.zone) ?? facts.workspace.zone;
  const moment = (
    date: string | null | undefined,
    time: string | null | undefined,
    before: Moment | null
  ) => {
    if (date === undefined && time === undefined) return before;
    const day = date === undefined ? (before?.day ?? null) : date === null ? null : parseDay(date);
    if (day === null) return null;
    const minute =
      time === undefined ? (before?.minute ?? null) : time === null ? null : parseTimeOfDay(time);
    if (minute === null) return { day, minute: null, zone: null };
    return { day, minute, zone: before?.zone ?? zoneNamed(zone.nameAt(instantOnWall(day, minute, zone))) };
  };
  return {
    ...task,
    ownerId,
    projectId,
    otherOwnerIds: patch.otherOwnerIds ?? task.otherOwnerIds,
    priority: patch.priority ?? task.priority,
    phase: statuses.find(({ id }) => id === patch.statusId)?.phase ?? task.phase,
    private: patch.private ?? task.private,
    due: moment(patch.dueDate, patch.dueTime, task.due),
    start: moment(patch.startDate, patch.startTime, task.start),
    remindOn: moment(patch.remindDate, patch.remindTime, task.remindOn)
  };
}
