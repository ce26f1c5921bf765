import { fail } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { explainDue } from '$lib/core/forecast/explain.ts';
import { whyText } from '$lib/core/ring/why-text.ts';
import { MS_PER_DAY } from '$lib/core/time/day.ts';
import { longZoned, shortMoment } from '$lib/core/time/format.ts';
import { formatZoned } from '$lib/core/time/instant.ts';
import { momentText, taskChoices, taskForm, taskRows } from '$lib/server/service/task-views.ts';
import { seenTask, signedIn } from '$lib/server/web.ts';
import { orFail, readTaskForm } from '$lib/server/web-forms.ts';
import { mayEdit } from '$lib/server/service/tasks.ts';
import type { Actions, PageServerLoad } from './$types';

/** How far ahead a task's own bells are listed. */
const AHEAD_DAYS = 400;

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone, viewer, sight } = signedIn(event);
  const { app } = event.locals;
  const task = seenTask(event, Number(event.params.id));
  const now = app.clock.now();
  const facts = app.stores.tasks.factsOf(task.id)!;
  const dueAt = app.source.planner.momentOf('due', facts);
  const past = app.stores.notices
    .ofTask(task.id)
    .filter(({ state }) => state !== 'planned' && state !== 'held');
  return {
    id: task.id,
    editable: mayEdit(task, sight),
    row: taskRows(app, [task], zone)[0]!,
    values: taskForm(task),
    choices: taskChoices(app),
    created: shortMoment(task.createdAt, zone),
    originalDue: task.slips > 0 && task.originalDue ? momentText(task.originalDue, zone.dayOf(now)) : null,
    dueMoment:
      dueAt === null ? null : longZoned(formatZoned(dueAt, app.source.planner.dateSource(facts).zone)),
    dueWhy: explainDue(app.source.planner, facts).map(whyText),
    coming: app.forecasts.ofTask(task.id, now + AHEAD_DAYS * MS_PER_DAY, viewer),
    past: past.map((notice) => ({
      bell: app.forecasts.recorded(notice, viewer),
      state: notice.state,
      reason: notice.reason
    }))
  };
};

export const actions: Actions = {
  default: async (event) => {
    const { actor, sight } = signedIn(event);
    const task = seenTask(event, Number(event.params.id));
    const { input, values } = await readTaskForm(event.request);
    if (!input.ok) return fail(400, { values, errors: input.errors });
    return orFail(values, () => {
      if (!mayEdit(task, sight)) throw new CodedError('task-not-yours');
      const { changeId } = event.locals.app.tasks.edit(actor, Number(event.params.id), input.value);
      return { done: `“${input.value.name}” was saved.`, changeId };
    });
  }
};
