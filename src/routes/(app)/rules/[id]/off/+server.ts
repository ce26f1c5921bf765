import { answerJson, signedIn } from '$lib/server/web.ts';
import type { RequestHandler } from './$types';

/** What turning a rule off would end. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(() => {
    const { actor, viewer } = signedIn(event);
    const { app } = event.locals;
    const id = Number(event.params.id);
    const taskIds = app.stores.plan.tasksOfRule(id);
    return app.effects.ofAct(taskIds, () => void app.rules.turnOff(actor, id), viewer);
  });
