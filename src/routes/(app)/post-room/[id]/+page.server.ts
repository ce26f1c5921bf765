import { error } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { twoTimes } from '$lib/view/bells.ts';
import { signedIn } from '$lib/server/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async (event) => {
  const { zone } = signedIn(event);
  const { app } = event.locals;
  const id = Number(event.params.id);
  const message =
    Number.isInteger(id) && app.postRoom.exists ? await orClosed(() => app.postRoom.message(id)) : null;
  if (!message) error(404, 'The Post room has no such message.');
  const reader = app.stores.people.byEmail(message.to[0] ?? '');
  const there = reader ? app.source.facts.people.get(reader.id)!.zone : zone;
  return {
    subject: message.subject,
    from: message.from,
    to: message.to.join(', '),
    reader: reader?.name ?? null,
    time: message.date === null ? null : twoTimes(message.date, there, zone, app.clock.now()),
    text: message.text ?? '',
    html: message.html ?? '',
    headers: message.headers ?? '',
    files: message.files ?? []
  };
};

async function orClosed<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (failure) {
    if (failure instanceof CodedError) error(503, failure.message);
    throw failure;
  }
}
