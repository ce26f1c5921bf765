import type { PersonFacts } from '../core/forecast/facts/facts.ts';
import { clockTime, shortDay, shortMoment } from '../core/time/format.ts';
import { MS_PER_DAY } from '../core/time/day.ts';
import { placeOfZone } from '../core/time/zone-names.ts';
import type { InstantMs, Zone } from '../core/time/zone.ts';
import { bellWord } from './bell-words.ts';
import type { BellView, StripMark, StripRow, StripView, TwoTimes } from './models.ts';

/** Writes a moment for the recipient and, where their walls differ, for the viewer. */
export function twoTimes(at: InstantMs, there: Zone, here: Zone, now: InstantMs): TwoTimes {
  const nowDay = here.dayOf(now);
  const thereText = shortMoment(at, there, nowDay);
  const hereText = shortMoment(at, here, nowDay);
  const sameDay = there.dayOf(at) === here.dayOf(at);
  return {
    atMs: at,
    there: thereText,
    place: placeOfZone(there.nameAt(at)),
    here: thereText === hereText ? null : sameDay ? clockTime(at, here) : hereText
  };
}

/**
 * The strip of some people and their bells, its axis in the viewer's zone.
 * @param further marks of what is not among the bells, by the reader's id
 */
export function stripOf(
  people: readonly PersonFacts[],
  bells: readonly BellView[],
  fromMs: InstantMs,
  untilMs: InstantMs,
  nowMs: InstantMs,
  viewer: Zone,
  further: ReadonlyMap<number, readonly StripMark[]> = new Map()
): StripView {
  const rows = people.map((person): StripRow => ({
    personId: person.id,
    name: person.name,
    localTime: clockTime(nowMs, person.zone),
    place: placeOfZone(person.zone.nameAt(nowMs)),
    lit: (inWeeks(fromMs, untilMs)
      ? workingRuns(person, fromMs, untilMs)
      : hours(person, fromMs, untilMs)
    ).map(([open, close]) => [Math.max(open, fromMs), Math.min(close, untilMs)]),
    marks: bells
      .filter((bell) => bell.readerId === person.id && bell.unrung === null)
      .map((bell): StripMark => ({
        bellKey: bell.key,
        atMs: bell.time.atMs,
        kind: bell.kind,
        fromMs: bell.heldFrom && bell.heldFrom.atMs >= fromMs ? bell.heldFrom.atMs : null,
        count: 1,
        label: bellLabel(bell)
      }))
      .concat(further.get(person.id) ?? [])
  }));
  return { fromMs, untilMs, nowMs, ticks: ticksOf(fromMs, untilMs, viewer), rows };
}

/** A strip longer than four days shows days instead of hours. */
function inWeeks(fromMs: InstantMs, untilMs: InstantMs): boolean {
  return untilMs - fromMs > 4 * MS_PER_DAY;
}

function hours(
  { calendar, leave }: PersonFacts,
  fromMs: InstantMs,
  untilMs: InstantMs
): [InstantMs, InstantMs][] {
  return leave.cutOutOf(calendar.spans.between(fromMs, untilMs));
}

/** Runs of working days as whole days of the person's zone: over weeks the closed days are cut out of one band, and leave with them. */
function workingRuns(person: PersonFacts, fromMs: InstantMs, untilMs: InstantMs): [InstantMs, InstantMs][] {
  const { zone, calendar } = person;
  const runs: [InstantMs, InstantMs][] = [];
  for (let day = zone.dayOf(fromMs); day <= zone.dayOf(untilMs); day++) {
    if (!calendar.days.isWorking(day)) continue;
    const last = runs[runs.length - 1];
    if (last && last[1] === zone.startOfDay(day)) last[1] = zone.endOfDay(day);
    else runs.push([zone.startOfDay(day), zone.endOfDay(day)]);
  }
  return person.leave.cutOutOf(runs);
}

/** A bell in one sentence: what, to whom, when in both zones. */
export function bellLabel(bell: BellView): string {
  const here = bell.time.here ? `, ${bell.time.here} here` : '';
  return `${bellWord(bell.kind)}: ${bell.taskName}, to ${bell.readerName}${instead(bell)}, ${bell.time.there} in ${bell.time.place}${here}`;
}

function instead({ readerId, recipientId, recipientName }: BellView): string {
  return readerId === recipientId ? '' : ` in place of ${recipientName}`;
}

/** Ticks on every second hour of the viewer's wall, or every seventh day where the strip shows days. */
function ticksOf(fromMs: InstantMs, untilMs: InstantMs, zone: Zone): StripView['ticks'] {
  const firstDay = zone.dayOf(fromMs);
  const lastDay = zone.dayOf(untilMs);
  const ticks: StripView['ticks'] = [];
  const weeks = inWeeks(fromMs, untilMs);
  for (let day = firstDay; day <= lastDay; day++) {
    if (weeks) {
      const start = zone.startOfDay(day);
      if ((day - firstDay) % 7 === 0 && start >= fromMs - MS_PER_DAY)
        ticks.push({ atMs: Math.max(start, fromMs), label: shortDay(day).slice(4) });
      continue;
    }
    for (let hour = 0; hour < 24; hour += 2) {
      const at = zone.instantOf(day * MS_PER_DAY + hour * 3_600_000);
      if (at >= fromMs && at < untilMs) ticks.push({ atMs: at, label: clockTime(at, zone) });
    }
  }
  return ticks;
}
