import { many } from '$lib/core/many.ts';
import Joi from 'joi';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { answerJson, answerLook, jsonOf, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

interface HandInput {
  rule: number;
  /** All tasks of a project; or these; or all that the list of `query` holds. */
  project: number | null;
  ids: number[] | null;
  query: string;
  preview: boolean;
  stamp: string | null;
}

const id = Joi.number().integer().positive();
const schema = Joi.object<HandInput>({
  rule: id.required(),
  project: id.allow(null).default(null),
  ids: Joi.array().items(id).max(100_000).allow(null).default(null),
  query: Joi.string().allow('').max(4_000).default(''),
  preview: Joi.boolean().default(false),
  stamp: Joi.string().max(200).allow(null).default(null)
});
/** More than this are refused by whoever rings them. */
const MOST_ASKED = 10_001;

/** Rings a rule by hand for many tasks, or says what that would do. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { person, viewer, sight } = signedIn(event);
    const { rule, project, ids, query, preview, stamp } = readOrRefuse(schema, await jsonOf(event.request));
    const { longActs, taskLists } = event.locals.app;
    // What a project holds is looked at whole: the rule says which of it, open work unless it says otherwise.
    const address = project === null ? query : `project=${project}&show=all`;
    const asked =
      ids ?? taskLists.ids(taskLists.read(new URLSearchParams(address)), viewer, sight, MOST_ASKED);
    const taskIds = taskLists.seen(asked, sight);
    const act = { act: 'by hand' as const, ruleId: rule, taskIds };
    if (preview) return answerLook(event, act);
    const { changeId, result } = await longActs.do(person.id, act, stamp);
    const message = `Rung by hand for ${many(result.found, 'task')}.`;
    return { message, changeId };
  });
