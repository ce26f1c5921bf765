import {
  NOTICE_ENDS,
  outboxFilter,
  outboxKey,
  outboxPage,
  testMessages
} from '$lib/server/record/outbox-views.ts';
import { recordChoices } from '$lib/server/record/record-filter.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { viewer } = signedIn(event);
  const { searchParams } = event.url;
  return {
    ...outboxPage(event.locals.app, outboxFilter(searchParams, viewer), outboxKey(searchParams), viewer),
    ends: [...NOTICE_ENDS],
    waiting: searchParams.get('end') === 'waiting',
    ...recordChoices(event.locals.app),
    tests: testMessages(event.locals.app, viewer),
    place: placeOfZone(viewer.zone.name)
  };
};
