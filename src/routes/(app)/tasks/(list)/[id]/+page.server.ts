import { many } from '$lib/core/many.ts';
import { fail, type RequestEvent } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { MS_PER_DAY, MS_PER_MINUTE, parseDay } from '$lib/core/time/day.ts';
import { longDate } from '$lib/core/time/format.ts';
import { parseTimeOfDay } from '$lib/core/time/time-of-day.ts';
import { shortMoment } from '$lib/core/time/format.ts';
import type { TaskFormView } from '$lib/view/tasks.ts';
import { read } from '$lib/server/input/fields.ts';
import {
  commentSchema,
  parkSchema,
  reminderSchema,
  timeSchema,
  type CommentInput,
  type ParkInput,
  type ReminderInput,
  type TimeInput
} from '$lib/server/task/schema.ts';
import type { Actor, Committed } from '$lib/server/workspace/commit.ts';
import { taskDetail } from '$lib/server/task/task-views.ts';
import { lostWords } from '$lib/server/task/lost-words.ts';
import { minutesOf } from '$lib/server/task/minutes.ts';
import { parkedWords } from '$lib/server/task/task-views.ts';
import { acknowledgeHere, answerPromiseHere } from '$lib/server/web/promises.ts';
import { checkEditable, checkNamedTask, checkParent, seenTask, signedIn } from '$lib/server/web/web.ts';
import { idOf, orFail, readTaskForm } from '$lib/server/web/forms.ts';
import type { Done } from '$lib/ui/form/submit.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const { viewer, sight } = signedIn(event);
  const task = seenTask(event, Number(event.params.id));
  return { task: taskDetail(event.locals.app, task, viewer, sight) };
};

type Event = RequestEvent<{ id: string }>;

/** Somebody who may change the task that an act is about; a removed task meanwhile is told by the act itself. */
function editor(event: Event): { actor: Actor; id: number } {
  const id = Number(event.params.id);
  checkEditable(event, id);
  return { actor: signedIn(event).actor, id };
}

/** What was made, with what was done in words where that hangs on it. */
type Made = Partial<Pick<Committed<unknown>, 'changeId'>> & Pick<Partial<Done>, 'done' | 'back'>;

function wordsOf(made: Made | void, otherwise: string): string {
  return made?.done ?? otherwise;
}

/** An act of one step: does it, and says what was done. */
function act(
  done: string,
  work: (event: Event, actor: Actor, id: number, form: FormData) => Made | void,
  part = ''
) {
  return async (event: Event) => {
    const form = await event.request.formData();
    const values = Object.fromEntries(form) as Record<string, string>;
    return orFail({ part, values }, () => {
      const { actor, id } = editor(event);
      const committed = work(event, actor, id, form);
      const { changeId, back } = committed ?? {};
      return { part, done: wordsOf(committed, done), changeId, back };
    });
  };
}

/** An act that anybody does who sees the task: about what they were told themselves. */
function seenAct(
  done: string,
  work: (event: Event, actor: Actor, id: number, form: FormData) => Made | void
) {
  return async (event: Event) => {
    const form = await event.request.formData();
    const values = Object.fromEntries(form) as Record<string, string>;
    return orFail({ part: 'quiet', values }, () => {
      const id = Number(event.params.id);
      checkNamedTask(event, id, '');
      const committed = work(event, signedIn(event).actor, id, form);
      const { changeId, back } = committed ?? {};
      return { part: 'quiet', done: wordsOf(committed, done), changeId, back };
    });
  };
}

/** What a form gave, or the fault as an error of its own field. */
function checked<T>(result: ReturnType<typeof read<T>>): T {
  if (result.ok) return result.value;
  const [field, detail] = Object.entries(result.errors)[0]!;
  throw new CodedError('bad-field', { detail: detail.replace(/\.$/, '') }, field);
}

export const actions: Actions = {
  save: async (event) => {
    let submission;
    try {
      submission = await readTaskForm(event.request);
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      return fail(400, {
        part: 'task',
        values: null,
        errors: { '': error.message }
      });
    }
    const { input, values, base, withSubtasks } = submission;
    // A task that is not seen is not there; one that went meanwhile keeps what was typed on the screen.
    if (!input.ok) return fail(400, { part: 'task', values, errors: input.errors });
    return orFail<unknown, TaskFormView>(values, () => {
      const { actor, id } = editor(event);
      const { app } = event.locals;
      if (input.value.parentId !== base?.parentId) checkParent(event, input.value.parentId);
      const { changeId, result } = app.tasks.edit(actor, id, input.value, { base, withSubtasks });
      const { lost, renewed } = result;
      const came = renewed
        ? ` Next round: due ${longDate(renewed.due)}${renewed.skipped.length > 0 ? `; ${many(renewed.skipped.length, 'date was', 'dates were')} skipped` : ''}.`
        : '';
      return {
        part: 'task',
        done: `“${input.value.name}” was saved.${came}`,
        changeId,
        lost: lostWords(app, id, lost)
      };
    });
  },
  comment: act(
    'Comment added.',
    ({ locals }, actor, id, form) =>
      locals.app.taskActs.comment(
        actor,
        id,
        checked<CommentInput>(read(commentSchema, { text: form.get('text') })).text
      ),
    'comment'
  ),
  dropComment: act('Comment removed.', ({ locals }, actor, id, form) =>
    locals.app.taskActs.dropComment(actor, id, idOf(form, 'comment') ?? 0)
  ),
  logTime: act(
    'Time logged.',
    ({ locals }, actor, id, form) =>
      locals.app.taskActs.logTime(
        actor,
        id,
        checked<TimeInput>(
          read(timeSchema, {
            minutes: minutesOf(String(form.get('time') ?? '')),
            note: form.get('note') ?? ''
          })
        )
      ),
    'time'
  ),
  dropTime: act('Time removed.', ({ locals }, actor, id, form) =>
    locals.app.taskActs.dropTime(actor, id, idOf(form, 'entry') ?? 0)
  ),
  remind: act(
    'Reminder added.',
    ({ locals }, actor, id, form) => {
      const [anchor, n, unit] = String(form.get('when') ?? '').split('/');
      const timing =
        anchor === 'moment'
          ? { date: form.get('date'), time: form.get('time'), zone: locals.person!.zone }
          : { anchor, n: Number(n), unit };
      return locals.app.taskActs.remind(
        actor,
        id,
        checked<ReminderInput>(read(reminderSchema, { whose: form.get('whose'), timing }))
      );
    },
    'reminder'
  ),
  dropReminder: act('Reminder removed.', ({ locals }, actor, id, form) =>
    locals.app.taskActs.dropReminder(actor, id, idOf(form, 'reminder') ?? 0)
  ),
  connect: act(
    'Connection added.',
    (event, actor, id, form) => {
      const { taskActs } = event.locals.app;
      const projectId = idOf(form, 'project');
      if (projectId !== null) return taskActs.connect(actor, id, { projectId });
      const taskId = Number(/(?<!\d)\d+$/.exec(String(form.get('task') ?? '').trimEnd())?.[0] ?? 0);
      checkNamedTask(event, taskId, 'to');
      return taskActs.connect(actor, id, { taskId });
    },
    'link'
  ),
  disconnect: act('Connection removed.', ({ locals }, actor, id, form) =>
    locals.app.taskActs.disconnect(actor, id, idOf(form, 'link') ?? 0)
  ),
  contacts: act('Outside contacts saved.', ({ locals }, actor, id, form) =>
    locals.app.taskActs.setContacts(actor, id, form.getAll('contact').map(Number))
  ),
  subtask: act(
    'Subtask added.',
    ({ locals }, actor, id, form) => {
      const name = String(form.get('name') ?? '').trim();
      return locals.app.tasks.addSubtask(actor, id, name, String(form.get('due') ?? '') || null);
    },
    'subtask'
  ),
  park: act(
    '',
    (event, actor, id, form) => {
      const { app } = event.locals;
      const { reviewDate } = checked<ParkInput>(read(parkSchema, { reviewDate: form.get('reviewDate') }));
      const { changeId } = app.taskActs.park(actor, id, reviewDate);
      const words = parkedWords(app, seenTask(event, id), signedIn(event).viewer);
      return { changeId, done: `Parked. ${words ?? ''}` };
    },
    'park'
  ),
  archive: act('Archived.', ({ locals }, actor, id) => locals.app.taskActs.archive(actor, id)),
  bin: act('Moved to the bin. It stays there for 30 days.', ({ locals }, actor, id) =>
    locals.app.taskActs.bin(actor, id)
  ),
  restore: act('Returned to the list.', ({ locals }, actor, id) => locals.app.taskActs.restore(actor, id)),
  hush: act(
    'Hushed. Waiting notices were withdrawn.',
    (event, actor, id, form) =>
      event.locals.app.quiet.hush(
        actor,
        { of: 'task', id },
        checked<ParkInput>(read(parkSchema, { reviewDate: form.get('until') })).reviewDate ?? '',
        signedIn(event).viewer.zone,
        String(form.get('note') ?? '').slice(0, 200)
      ),
    'quiet'
  ),
  unhush: act(
    'Hush ended.',
    ({ locals }, actor, id, form) => {
      return locals.app.quiet.unhushTask(actor, idOf(form, 'hush') ?? 0, id);
    },
    'quiet'
  ),
  ring: act(
    'Rung by hand.',
    ({ locals }, actor, id, form) => {
      return locals.app.handRings.ringOn(actor, idOf(form, 'rule') ?? 0, id);
    },
    'quiet'
  ),
  acknowledge: act('', (event, _actor, id, form) => acknowledgeHere(event, id, form), 'said'),
  answerPromise: seenAct('', (event, _actor, _id, form) => answerPromiseHere(event, form)),
  reminded: seenAct('Saved. Applies from the next notice.', ({ locals }, actor, id, form) =>
    locals.app.quiet.setReminded(actor, id, actor.personId!, form.get('wants') === 'yes')
  ),
  snooze: seenAct('', (event, actor, taskId, form) => {
    const { locals } = event;
    const { zone } = signedIn(event).viewer;
    const day = parseDay(String(form.get('date') ?? ''));
    const minute = parseTimeOfDay(String(form.get('time') ?? ''));
    const at = zone.instantOf(day * MS_PER_DAY + minute * MS_PER_MINUTE);
    const noticeId = idOf(form, 'notice') ?? 0;
    const { leavesAt, pastDue } = locals.app.quiet.snooze(actor, noticeId, at);
    const when = shortMoment(leavesAt, zone, zone.dayOf(locals.app.clock.now()));
    return {
      done: `Snoozed until ${when}${pastDue ? ', after its date' : ''}.`,
      back: { url: `/tasks/${taskId}/snooze`, body: { notice: noticeId } }
    };
  }),
  answer: seenAct('Answer saved.', (event, actor, _id, form) => {
    const answer = String(form.get('answer'));
    if (answer !== 'yes' && answer !== 'no' && answer !== 'change')
      throw new CodedError('bad-field', { detail: 'Answer yes, no or change' });
    event.locals.app.handRings.answer(actor, signedIn(event).sight.all, idOf(form, 'question') ?? 0, answer);
  })
};
