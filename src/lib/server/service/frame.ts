import { deedsOf, may } from '../../core/access/deeds.ts';
import { MS_PER_DAY, formatDay } from '../../core/time/day.ts';
import { clockTime, shortMoment } from '../../core/time/format.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import { zoneOfPerson } from '../../core/forecast/compile-facts.ts';
import { inWords, initialsOf, type FrameView } from '../../view/frame.ts';
import type { Container } from '../container.ts';
import type { Person } from '../store/people.ts';

/** What the frame shows to a person. */
export function frameView(app: Container, person: Person): FrameView {
  const now = app.clock.now();
  const zone = zoneOfPerson(person);
  return {
    person: { id: person.id, name: person.name, initials: initialsOf(person.name) },
    deeds: deedsOf(person.role),
    clock: {
      text: shortMoment(now, zone),
      place: placeOfZone(zone.nameAt(now)),
      movable: app.clock.movable,
      running: app.clock.running,
      date: formatDay(zone.dayOf(now)),
      time: clockTime(now, zone)
    },
    nextBell: nextBell(app, now, may(person.role, 'watch the whole team') ? null : person.id),
    postRoom: app.postRoom.exists,
    demo: app.options.demo
  };
}

/**
 * The next notice that leaves, and to how many people at that instant.
 * @param readerId whose bells count; null for everybody's
 */
function nextBell(app: Container, now: number, readerId: number | null): string | null {
  const zone = app.source.facts.workspace.zone;
  const bells = app.forecasts
    .bells(now, now + 3 * MS_PER_DAY, { zone, personId: null })
    .filter((bell) => bell.unrung === null && (readerId === null || bell.readerId === readerId));
  const first = bells[0];
  if (!first) return null;
  const words = `Next bell ${inWords(first.time.atMs - now)}`;
  if (readerId !== null) return words;
  const people = new Set(
    bells.filter(({ time }) => time.atMs === first.time.atMs).map((bell) => bell.readerId)
  );
  return `${words} · ${people.size} ${people.size === 1 ? 'person' : 'people'}`;
}
