import { JOURNAL_WAYS, journalFilter, journalPage } from '$lib/server/record/journal-views.ts';
import { recordChoices } from '$lib/server/record/record-filter.ts';
import { placeOfZone } from '$lib/core/time/zone-names.ts';
import { signedIn } from '$lib/server/web/web.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { viewer } = signedIn(event);
  const { searchParams } = event.url;
  const before = Number(searchParams.get('before')) || null;
  return {
    ...journalPage(event.locals.app, journalFilter(searchParams, viewer), before, viewer),
    ways: JOURNAL_WAYS,
    ...recordChoices(event.locals.app),
    place: placeOfZone(viewer.zone.name)
  };
};
