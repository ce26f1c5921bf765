import {
  NOTICE_ENDS,
  outboxFilter,
  outboxPage,
  recordChoices,
  testMessages
} from '$lib/server/record/record-views.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { viewer } = signedIn(event);
  const { searchParams } = event.url;
  const before = Number(searchParams.get('before')) || null;
  return {
    ...outboxPage(event.locals.app, outboxFilter(searchParams, viewer), before, viewer),
    ends: [...NOTICE_ENDS],
    ...recordChoices(event.locals.app),
    tests: testMessages(event.locals.app, viewer),
    place: placeOfZone(viewer.zone.name)
  };
};
