import { error } from '@sveltejs/kit';
import { CodedError } from '$lib/core/errors.ts';
import { postRoomMessage } from '$lib/server/message/post-room-views.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async (event) => {
  const { zone } = signedIn(event);
  try {
    const message = await postRoomMessage(event.locals.app, zone, event.params.key);
    return message ?? error(404, 'The Post room has no such message.');
  } catch (failure) {
    if (failure instanceof CodedError) error(503, failure.message);
    throw failure;
  }
};
