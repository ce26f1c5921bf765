import { CodedError } from '$lib/core/errors.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { taskPatchSchema } from '$lib/server/task/schema.ts';
import { lostWords } from '$lib/server/task/lost-words.ts';
import { mayEdit } from '$lib/server/task/tasks.ts';
import { answerJson, checkParent, jsonParts, partsOf, seenTask, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Changes single fields in place: `{patch, base, withSubtasks?}`, where `base` is what was shown. */
export const POST: RequestHandler = (event) => {
  const task = seenTask(event, Number(event.params.id));
  return answerJson(async () => {
    const { actor, sight } = signedIn(event);
    const { app } = event.locals;
    if (!mayEdit(task, sight, app)) throw new CodedError('task-not-yours');
    const body = await jsonParts(event.request);
    const input = readOrRefuse(taskPatchSchema, body.patch ?? {});
    checkParent(event, input.parentId);
    const { changeId, result } = app.tasks.edit(actor, task.id, input, {
      base: body.base === undefined ? null : partsOf(body.base),
      withSubtasks: body.withSubtasks === true
    });
    const [lost] = lostWords(app, task.id, result.lost);
    const message = lost
      ? `${lost.by} changed it to “${lost.theirs}” while you were editing. Yours (“${lost.yours}”) was not saved.`
      : `“${task.name}” was changed.`;
    return { message, changeId, lost: lost !== undefined };
  });
};
