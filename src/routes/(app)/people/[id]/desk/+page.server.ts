import { error, redirect } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { rhythmAsked } from '$lib/server/desk/asked.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

/** Somebody's Desk as they see it. */
export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock', 'early-bell:tasks');
  const who = signedIn(event);
  const { app } = event.locals;
  const id = Number(event.params.id);
  if (id === who.person.id) redirect(303, '/desk');
  try {
    const desk = app.deskReader.view(who, id, rhythmAsked(event.url.searchParams));
    return { desk, bells: app.later.view('desk bells', who.person.id, { id }) };
  } catch (failure) {
    if (failure instanceof CodedError)
      error(failure.code === 'desk-not-yours' ? 403 : 404, { message: failure.message });
    throw failure;
  }
};
