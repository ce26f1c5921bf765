import { CodedError } from '$lib/core/errors.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { taskPatchSchema } from '$lib/server/task/schema.ts';
import { mayEdit } from '$lib/server/task/tasks.ts';
import { answerJson, jsonOf, seenTask, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What a change of a task would do, before it is saved: `TaskInput`, of which what is absent stays. */
export const POST: RequestHandler = (event) => {
  const task = seenTask(event, Number(event.params.id));
  return answerJson(async () => {
    const { actor, viewer, sight } = signedIn(event);
    const { app } = event.locals;
    if (!mayEdit(task, sight, app)) throw new CodedError('task-not-yours');
    const input = readOrRefuse(taskPatchSchema, await jsonOf(event.request));
    const edit = () => void app.tasks.edit(actor, task.id, input, { base: null, withSubtasks: true });
    return app.effects.ofAct([task.id], edit, viewer);
  });
};
