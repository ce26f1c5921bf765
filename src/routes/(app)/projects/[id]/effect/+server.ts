import { readOrRefuse } from '$lib/server/input/fields.ts';
import { projectSchema } from '$lib/server/project/schema.ts';
import { answerJson, answerLook, jsonOf } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What a change of a project would do to its tasks, before it is saved: `ProjectInput`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const input = readOrRefuse(projectSchema, await jsonOf(event.request));
    return answerLook(event, { act: 'project', projectId: Number(event.params.id), input });
  });
