import type { RequestEvent } from '@sveltejs/kit';
import { CodedError } from '../../core/errors.ts';
import type { Hush } from '../../core/forecast/facts/facts.ts';
import { formatDay } from '../../core/time/day.ts';
import { shortDay } from '../../core/time/format.ts';
import type { HushView } from '../../view/hush.ts';
import { idOf, orFail } from './forms.ts';
import { signedIn } from './web.ts';

/**
 * What keeps a project, a person or a rule quiet, as the viewer reads it.
 * @param mayEnd whether they may end one, by who made it
 */
export function hushView(
  event: Pick<RequestEvent, 'locals'>,
  of: Hush['of'],
  id: number,
  mayEnd: (byId: number | null) => boolean = () => true
): HushView {
  const { viewer } = signedIn(event);
  const { app } = event.locals;
  const now = app.clock.now();
  const nowDay = viewer.zone.dayOf(now);
  return {
    tomorrow: formatDay(nowDay + 1),
    hushes: app.stores.hushes
      .endingAfter(now)
      .filter((hush) => hush.of === of && hush.id === id)
      .map(({ hushId, until, byId, note }) => ({
        id: hushId,
        until: shortDay(viewer.zone.dayOf(until - 1), nowDay),
        by: byId === null ? 'somebody' : (app.stores.people.byId(byId)?.name ?? 'a removed person'),
        note,
        mayEnd: mayEnd(byId)
      }))
  };
}

/** The form actions by which a project, a person or a rule is hushed and rings again. */
export function hushActions(of: Hush['of']) {
  const act =
    (work: (event: RequestEvent, form: FormData) => { changeId: number; done: string }) =>
    async (event: RequestEvent) => {
      const form = await event.request.formData();
      return orFail(null, () => work(event, form));
    };
  return {
    hush: act((event, form) => {
      const { actor, viewer } = signedIn(event);
      const subject = { of, id: Number(event.params.id) };
      const note = String(form.get('note') ?? '').slice(0, 200);
      const { changeId } = event.locals.app.quiet.hush(
        actor,
        subject,
        String(form.get('until') ?? ''),
        viewer.zone,
        note
      );
      return { changeId, done: 'It is quiet. What waited was withdrawn.' };
    }),
    unhush: act((event, form) => {
      const hush = event.locals.app.stores.hushes.byId(idOf(form, 'hush') ?? 0);
      if (hush?.of !== of || hush.id !== Number(event.params.id)) throw new CodedError('hush-gone');
      const { changeId } = event.locals.app.quiet.unhush(signedIn(event).actor, hush.hushId);
      return { changeId, done: 'It rings again.' };
    })
  };
}
