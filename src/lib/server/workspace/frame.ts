import { many } from '../../core/many.ts';
import { deedsOf, may } from '../../core/access/deeds.ts';
import { formatDay } from '../../core/time/day.ts';
import { clockTime, shortMoment } from '../../core/time/format.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import { zoneOfPerson } from '../../core/forecast/facts/compile-facts.ts';
import { inWords, initialsOf, type FrameView } from '../../view/frame.ts';
import type { Workspace } from './workspace.ts';
import type { NextBell } from '../tower/next-bell.ts';
import type { ContainerOptions } from '../options.ts';
import type { ChannelHealth } from '../outbox/health.ts';
import { hasPostRoom } from '../message/post-room-views.ts';
import type { PostRoom } from '../message/post-room.ts';
import type { Person } from '../store/people.ts';

/** What these views ask. */
type Services = Workspace & {
  nextBell: NextBell;
  options: ContainerOptions;
  postRoom: PostRoom;
  health: ChannelHealth;
};

/** What the frame shows to a person. */
export function frameView(app: Services, person: Person): FrameView {
  const now = app.clock.now();
  const zone = zoneOfPerson(person);
  return {
    person: { id: person.id, name: person.name, initials: initialsOf(person.name) },
    unseen: app.stores.inApp.unseen(person.id),
    deeds: deedsOf(person.role),
    clock: {
      text: shortMoment(now, zone),
      place: placeOfZone(zone.nameAt(now)),
      movable: app.clock.movable,
      running: app.clock.running,
      date: formatDay(zone.dayOf(now)),
      time: clockTime(now, zone)
    },
    postRoom: hasPostRoom(app),
    sending: may(person.role, 'make rules')
      ? { keeps: app.health.keepsMail, why: app.health.whyNothingLeaves() }
      : null,
    demo: app.options.demo
  };
}

/** The next notice that leaves, in words, and to how many people at that instant; their own where somebody does not watch the whole team. Null when none does. */
export async function nextBell(app: Services, { id, role }: Person): Promise<string | null> {
  const now = app.clock.now();
  const readerId = may(role, 'watch the whole team') ? null : id;
  const next = await app.nextBell.of(readerId, id);
  if (!next) return null;
  const words = `Next bell ${inWords(next.at - now)}`;
  if (readerId !== null) return words;
  return `${words} · ${many(next.people, 'person', 'people')}`;
}
