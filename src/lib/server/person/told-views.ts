import { digestWhenWords } from '../../core/digest/when.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortMoment } from '../../core/time/format.ts';
import type { DigestTold, StandingView } from '../../view/told.ts';
import type { SignedIn } from '../workspace/signed-in.ts';
import { STANDING_OFFSETS, standingWords } from './standing-leads.ts';
import { digestTimes, isReader, type ToldViewServices } from './told-week.ts';

/** The next of a digest is looked for so far ahead. */
const AHEAD_MS = 35 * MS_PER_DAY;

/** How long before everything of theirs they are reminded, and what can be added. */
export function standingView({ stores, source }: ToldViewServices, { person }: SignedIn): StandingView {
  const leads = stores.standingLeads.of(person.id);
  return {
    leads: leads.map((lead) => ({ id: lead.id, words: standingWords(lead) })),
    offered: [...STANDING_OFFSETS]
      .filter(([, { n, unit }]) => !leads.some((lead) => lead.n === n && lead.unit === unit))
      .map(([value, offset]) => ({ value, words: standingWords(offset) })),
    isOff: !source.liveRules().some(({ facts }) => facts.ofTask)
  };
}

/** The digests that they read, with when each comes next. */
export function digestsTold(app: ToldViewServices, { person, zone }: SignedIn): DigestTold[] {
  const facts = app.source.facts.people.get(person.id);
  if (!facts) return [];
  const now = app.clock.now();
  return app.source
    .digests()
    .filter((digest) => isReader(app, digest, person.id))
    .map((digest) => {
      const [next] = digestTimes(app, digest, facts, now, now + AHEAD_MS);
      return {
        id: digest.id,
        name: digest.name,
        when: digestWhenWords(digest.definition.when),
        next: next === undefined ? null : shortMoment(next.at, zone, zone.dayOf(now))
      };
    });
}
