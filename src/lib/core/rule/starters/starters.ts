import { aroundTheDate } from './dates.ts';
import { whenItHappens, newWork } from './events.ts';
import { followedUp } from './follow-ups.ts';
import { climbing } from './ladder.ts';
import { kept, listed } from './lists.ts';
import { byHand, statusMove } from './by-hand.ts';
import type { Starter, StarterBasis } from './parts.ts';

/** Starters in the order in which they are needed most. */
export function starters(basis: StarterBasis): Starter[] {
  return [
    ...aroundTheDate(basis),
    ...whenItHappens(),
    ...newWork(),
    ...statusMove(basis.statusIn),
    ...followedUp(basis),
    ...kept(basis),
    ...listed(basis),
    ...climbing(),
    ...byHand(basis)
  ];
}
