import { readOrRefuse } from '$lib/server/input/fields.ts';
import { quickSchema } from '$lib/server/task/quick-add/schema.ts';
import { answerJson, jsonParts, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** Reads a line of plain words back, or adds the task that it says: `{line, answers, add}`. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { actor, person } = signedIn(event);
    const input = readOrRefuse(quickSchema, await jsonParts(event.request));
    const { line, answers, add } = input;
    const { quickAdd } = event.locals.app;
    if (!add) return quickAdd.read(line, person.id, answers);
    const { changeId, result } = quickAdd.add(actor, line, answers);
    return { message: `“${result.name}” was added.`, changeId, id: result.id };
  });
