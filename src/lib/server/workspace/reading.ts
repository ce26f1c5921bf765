import type { Reading } from '../../view/bell-view.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import { recordNames } from '../engine/names.ts';
import type { Stores } from '../store/all.ts';
import type { Viewer } from './viewer.ts';

/** How a viewer reads notices now. */
export function readingOf(stores: Stores, clock: WorkspaceClock, { zone, personId }: Viewer): Reading {
  return {
    ...{ zone, personId, now: clock.now(), names: recordNames(stores) },
    whyOf: (noticeId) => stores.notices.byId(noticeId)?.why ?? null
  };
}
