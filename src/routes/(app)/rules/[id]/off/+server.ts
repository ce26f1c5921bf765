import { answerLook } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** What turning a rule off would end. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerLook(event, { act: 'rule off', ruleId: Number(event.params.id) });
