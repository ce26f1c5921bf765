import { CodedError } from '$lib/core/errors.ts';
import { UNANSWERED } from '$lib/core/sweep/model.ts';
import { shortMoment } from '$lib/core/time/format.ts';
import { signedIn } from '$lib/server/web/web.ts';
import { idOf, orFail } from '$lib/server/web/forms.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { app } = event.locals;
  const { person, zone } = signedIn(event);
  const today = zone.dayOf(app.clock.now());
  const then = { park: 'parked', close: 'closed', keep: 'kept' } as const;
  return {
    asked: app.sweepQuestions.openFor(person.id).map(({ question, task }) => ({
      id: question.id,
      taskId: task.id,
      task: task.name,
      project: app.source.facts.projects.get(task.projectId ?? 0)?.name ?? '',
      touched: shortMoment(task.touchedAt, zone, today),
      until: shortMoment(question.untilAt, zone, today),
      otherwise: then[question.otherwise]
    }))
  };
};

export const actions: Actions = {
  answer: async (event) => {
    const form = await event.request.formData();
    const id = idOf(form, 'id');
    return orFail({ id }, () => {
      const answer = UNANSWERED.find((one) => one === form.get('answer'));
      if (id === null || !answer) throw new CodedError('sweep-answered');
      const { actor, may } = signedIn(event);
      const { changeId, result } = event.locals.app.sweepQuestions.answer(
        actor,
        may('watch the whole team'),
        id,
        answer
      );
      return { done: result, changeId };
    });
  }
};
