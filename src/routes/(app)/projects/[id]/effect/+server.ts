import { CodedError } from '$lib/core/errors.ts';
import { read } from '$lib/server/schema/fields.ts';
import { projectSchema } from '$lib/server/schema/project.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What a change of a project would do to its tasks, before it is saved: `ProjectInput`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { actor, viewer } = signedIn(event);
    const { app } = event.locals;
    const id = Number(event.params.id);
    const input = read(projectSchema, await jsonOf(event.request));
    if (!input.ok)
      throw new CodedError('bad-field', { detail: Object.values(input.errors)[0]!.replace(/\.$/, '') });
    const taskIds = app.stores.tasks.openOfProject(id).map((task) => task.id);
    return app.effects.ofAct(taskIds, () => void app.projects.edit(actor, id, input.value), viewer);
  });
