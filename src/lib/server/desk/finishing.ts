import { CodedError } from '../../core/errors.ts';
import { longDate } from '../../core/time/format.ts';
import type { TaskService } from '../task/tasks.ts';
import type { Actor } from '../workspace/commit.ts';
import type { DeskServices } from './desk-of.ts';
import type { FinishInput } from './schema.ts';
import type { Said } from './word.ts';

/**
 * Finishes a task in one press. Where it comes back it is said when, and that what reminds of it comes with it.
 * @throws CodedError `task-gone`, `open-subtasks`
 */
export function finish(
  app: DeskServices & { tasks: TaskService },
  actor: Actor,
  { taskId, withSubtasks }: FinishInput
): Said {
  const { stores } = app;
  const status = stores.projects.statuses().find(({ phase }) => phase === 'finished');
  const task = stores.tasks.byId(taskId);
  if (!task) throw new CodedError('task-gone');
  if (!status) throw new CodedError('bad-field', { detail: 'The workspace has no status for finished work' });
  const { changeId, result } = app.tasks.edit(actor, taskId, { statusId: status.id }, { withSubtasks });
  const { renewed } = result;
  if (!renewed) return { message: `“${task.name}” is finished.`, changeId };
  const next = `It returns: due ${longDate(renewed.due)}`;
  const reminders = stores.taskParts.reminders(taskId).length > 0 ? ', with its reminders' : '';
  return { message: `“${task.name}” is finished. ${next}${reminders}.`, changeId };
}
