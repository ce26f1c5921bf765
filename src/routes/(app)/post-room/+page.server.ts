import { error } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { twoTimes } from '$lib/view/bells.ts';
import type { MailFault } from '$lib/server/service/post-room.ts';
import { signedIn } from '$lib/server/web.ts';
import type { Actions, PageServerLoad } from './$types';

const PAGE = 50;

export const load: PageServerLoad = async (event) => {
  event.depends('early-bell:clock');
  const { zone } = signedIn(event);
  const { app } = event.locals;
  if (!app.postRoom.exists) error(404, 'There is no stand-in here: messages go out by the real mail server.');
  const search = (event.url.searchParams.get('search') ?? '').slice(0, 200);
  const offset = Math.max(0, Number.parseInt(event.url.searchParams.get('from') ?? '0', 10) || 0);
  const now = app.clock.now();
  const readers = new Map(
    app.stores.people.all().map((person) => [person.email?.toLowerCase() ?? '', person])
  );
  try {
    const [page, fault] = await Promise.all([app.postRoom.list(search, offset, PAGE), app.postRoom.fault()]);
    return {
      search,
      offset,
      total: page.total,
      fault,
      closed: null,
      messages: page.messages.map((message) => {
        const reader = readers.get(message.to[0]?.toLowerCase() ?? '');
        const there = reader ? app.source.facts.people.get(reader.id)!.zone : zone;
        return {
          id: message.id,
          subject: message.subject,
          to: message.to.join(', '),
          reader: reader?.name ?? null,
          copies: message.copies,
          time: message.date === null ? null : twoTimes(message.date, there, zone, now)
        };
      })
    };
  } catch (failure) {
    if (!(failure instanceof CodedError)) throw failure;
    return { search, offset, total: 0, fault: 'none' as MailFault, closed: failure.message, messages: [] };
  }
};

export const actions: Actions = {
  fault: async ({ request, locals }) => {
    const fault = String((await request.formData()).get('fault'));
    if (fault === 'none' || fault === 'refuse' || fault === 'try-later')
      await locals.app.postRoom.setFault(fault);
    if (fault === 'none') {
      locals.app.stores.outbox.hurry(locals.app.clock.machine.now());
      locals.app.outbox.wake();
    }
  }
};
