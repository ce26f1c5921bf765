import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/schema/fields.ts';
import { taskPatchSchema } from '$lib/server/schema/task.ts';
import { factsAfter } from '$lib/server/service/task-change.ts';
import { answerJson, jsonOf, seenTask, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What a change of a task would do, before it is saved: `TaskInput`, of which what is absent stays. */
export const POST: RequestHandler = (event) => {
  const task = seenTask(event, Number(event.params.id));
  return answerJson(async () => {
    const { viewer } = signedIn(event);
    const { app } = event.locals;
    const input = read(taskPatchSchema, await jsonOf(event.request));
    if (!input.ok)
      throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]!.replace(/\.$/, '') });
    const statuses = app.stores.projects.statuses();
    const { facts } = app.source;
    return app.effects.ofTasks(
      new Map([[task.id, (before) => factsAfter(before, input.value, facts, statuses)]]),
      viewer
    );
  });
};
