/** What open pages hear. */

import { Auth } from '../auth/auth.ts';
import { WorkspaceClock } from '../engine/clock.ts';
import { LaterViews } from '../threads/later-views.ts';
import { Committer } from '../workspace/commit.ts';
import { sightOf } from '../auth/sight.ts';
import { LiveUpdates } from '../workspace/live.ts';
import { NextBell } from '../tower/next-bell.ts';
import { type Stores } from '../store/all.ts';

/** Open pages hear of what their people see, while their session lasts. */
export function liveUpdates(stores: Stores, auth: Auth): LiveUpdates {
  const live = new LiveUpdates({
    isOpen: (session) => auth.personOf(session) !== null,
    sees: (personId, taskIds) => {
      const person = stores.people.byId(personId);
      return person !== null && stores.tasks.seen([...taskIds], sightOf(person, stores)).size > 0;
    }
  });
  auth.onEnded(() => live.review());
  return live;
}

export function openNextBell(later: LaterViews, clock: WorkspaceClock, committer: Committer): NextBell {
  const next = new NextBell(
    (personId, from, until) => later.view('first bells', personId, { from, until }),
    clock
  );
  committer.listen(() => next.changed());
  return next;
}
