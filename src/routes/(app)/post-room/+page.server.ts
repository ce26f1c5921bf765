import { activePeople } from '$lib/server/workspace/choices.ts';
import { error } from '@sveltejs/kit';
import { channelNamed, isLeaving } from '$lib/core/channel/channels.ts';
import { hasPostRoom, POST_ROOM_PAGE, postRoomPage } from '$lib/server/message/post-room-views.ts';
import { faultsOf } from '$lib/server/message/post-room.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async (event) => {
  event.depends('early-bell:clock');
  const { zone } = signedIn(event);
  const { app } = event.locals;
  if (!hasPostRoom(app)) error(404, 'No Post room here. Real messages are sent.');
  const asked = event.url.searchParams;
  const people = activePeople(app);
  const readerId = Number(asked.get('reader'));
  const query = {
    channel: channelNamed(asked.get('channel')),
    readerId: people.some(({ id }) => id === readerId) ? readerId : null,
    search: (asked.get('search') ?? '').slice(0, 200),
    offset: Math.max(0, Number.parseInt(asked.get('from') ?? '0', 10) || 0)
  };
  return { ...query, people, size: POST_ROOM_PAGE, ...(await postRoomPage(app, zone, query)) };
};

export const actions: Actions = {
  fault: async ({ request, locals }) => {
    const form = await request.formData();
    const channel = channelNamed(form.get('channel'));
    if (!channel || !isLeaving(channel)) return;
    const known = faultsOf(channel).find((one) => one === form.get('fault'));
    if (known) await locals.app.postRoom.setFault(known, channel);
    if (known === 'none') {
      locals.app.outbox.hurry();
    }
  }
};
