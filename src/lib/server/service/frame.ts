import { MS_PER_DAY, formatDay } from '../../core/time/day.ts';
import { clockTime, shortMoment } from '../../core/time/format.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import { zoneNamed } from '../../core/time/zone.ts';
import { inWords, initialsOf, type FrameView } from '../../view/frame.ts';
import type { Container } from '../container.ts';
import type { Person } from '../store/people.ts';

/** What the frame shows to a person. */
export function frameView(app: Container, person: Person): FrameView {
  const now = app.clock.now();
  const zone = zoneNamed(person.zone);
  return {
    person: { name: person.name, initials: initialsOf(person.name) },
    clock: {
      text: shortMoment(now, zone),
      place: placeOfZone(person.zone),
      movable: app.clock.movable,
      running: app.clock.running,
      date: formatDay(zone.dayOf(now)),
      time: clockTime(now, zone)
    },
    nextBell: nextBell(app, now),
    postRoom: app.postRoom.exists,
    demo: app.options.demo
  };
}

/** The next notice that leaves, and to how many people at that instant. */
function nextBell(app: Container, now: number): string | null {
  const zone = app.source.facts.workspace.zone;
  const bells = app.forecasts.bells(now, now + 3 * MS_PER_DAY, zone).filter(({ unrung }) => unrung === null);
  const first = bells[0];
  if (!first) return null;
  const people = new Set(
    bells.filter(({ time }) => time.atMs === first.time.atMs).map(({ readerId }) => readerId)
  );
  return `Next bell ${inWords(first.time.atMs - now)} · ${people.size} ${people.size === 1 ? 'person' : 'people'}`;
}
