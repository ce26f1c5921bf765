import { Temporal } from 'temporal-polyfill';
import { WEEKDAYS, type CalendarSpec } from '../../src/lib/core/calendar/spec.ts';
import type { ReaderSpec, RingCase } from '../../src/lib/core/ringtime/case.ts';

/**
 * The pipeline again, as plainly as it can be written: it walks day by day and minute by minute, reads the clock one wall
 * time at a time through Temporal, and keeps nothing compiled but which minutes are open. Only for tests, and only for dates near its window.
 */
const FIRST_DATE = Temporal.PlainDate.from('2025-10-01');
const DAYS = 460;
const FIRST_MINUTE = Temporal.Instant.from('2025-10-01T00:00Z').epochMilliseconds / 60_000;

type Minute = number;

const minuteOf = (date: Temporal.PlainDate, minutes: number, zone: string): Minute => {
  const local = date.toPlainDateTime().add({ minutes });
  return Math.ceil(local.toZonedDateTime(zone).epochMilliseconds / 60_000);
};
const startOf = (date: Temporal.PlainDate, zone: string): Minute =>
  Math.ceil(date.toZonedDateTime(zone).epochMilliseconds / 60_000);
const dateOf = (minute: Minute, zone: string): Temporal.PlainDate =>
  Temporal.Instant.fromEpochMilliseconds(minute * 60_000)
    .toZonedDateTimeISO(zone)
    .toPlainDate();

function intervalsOn(spec: CalendarSpec, date: Temporal.PlainDate): [number, number][] {
  const text = date.toString();
  if (spec.closed?.includes(text)) return [];
  const written = spec.hours?.[text] ?? spec.week[WEEKDAYS[date.dayOfWeek - 1]!] ?? [];
  return written.map((interval) => {
    const [open, close] = interval
      .split('-')
      .map((time) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3))) as [number, number];
    return [open, close > open ? close : close + 1440];
  });
}

/** Which minutes are working time, one byte a minute; made once for each calendar and zone. */
const tables = new Map<string, Uint8Array>();
function openMinutes(spec: CalendarSpec, zone: string): Uint8Array {
  const key = `${zone} ${JSON.stringify(spec)}`;
  const known = tables.get(key);
  if (known) return known;
  const open = new Uint8Array(DAYS * 1440);
  for (let i = 0; i < DAYS; i++) {
    const date = FIRST_DATE.add({ days: i });
    for (const [from, to] of intervalsOn(spec, date)) {
      const edge = (at: number) =>
        at % 1440 === 0 ? startOf(date.add({ days: at / 1440 }), zone) : minuteOf(date, at, zone);
      open.fill(1, edge(from) - FIRST_MINUTE, edge(to) - FIRST_MINUTE);
    }
  }
  tables.set(key, open);
  return open;
}

/** One reader: which minutes are in reach, and which are leave. */
interface Walker {
  zone: string;
  inReach: (minute: Minute) => boolean;
  /** In an interval itself, the instant of closing left out. */
  inOpening: (minute: Minute) => boolean;
  onLeave: (minute: Minute) => boolean;
}

function walker(zone: string, calendar: CalendarSpec | undefined, leave: ReaderSpec['leave']): Walker {
  const open = calendar ? openMinutes(calendar, zone) : null;
  const at = (minute: Minute) => open === null || open[minute - FIRST_MINUTE] === 1;
  const stretches = (leave ?? []).map(({ from, to }) => [
    from.includes('T') ? minuteAt(from, zone) : startOf(Temporal.PlainDate.from(from), zone),
    to.includes('T') ? minuteAt(to, zone) : startOf(Temporal.PlainDate.from(to).add({ days: 1 }), zone)
  ]);
  return {
    zone,
    inReach: (minute) => at(minute) || at(minute - 1),
    inOpening: at,
    onLeave: (minute) => stretches.some(([from, to]) => minute >= from! && minute < to!)
  };
}

function minuteAt(text: string, zone: string): Minute {
  const local = Temporal.PlainDateTime.from(text);
  return minuteOf(local.toPlainDate(), local.hour * 60 + local.minute, zone);
}

/** The answer of the walk: the minute at which it leaves, null when it does not ring, and whether it is late. */
export function walk(ringCase: RingCase): { instant: string | null; lateBell: boolean } {
  const ringAt = walkToRing(ringCase);
  if (ringAt === null) return { instant: null, lateBell: false };
  const { leaves, stoodIn } = walkToLeaving(ringCase, ringAt);
  const n = ringCase.offset?.n ?? 0;
  const unit = ringCase.offset?.unit ?? 'day';
  const dated = !ringCase.anchor.includes('T');
  const onTheDay = n === 0 && !isShort(unit) && (ringCase.time !== undefined || dated);
  // Where somebody stands in at the ring instant nothing is late.
  const lateBell = !stoodIn && (n < 0 || onTheDay) && leaves >= dueMinute(ringCase);
  return { instant: new Date(leaves * 60_000).toISOString().replace('.000Z', 'Z'), lateBell };
}

const isShort = (unit: string) => ['minute', 'hour', 'workminute', 'workhour'].includes(unit);

/** Steps 1 to 4. */
function walkToRing(ringCase: RingCase): Minute | null {
  const { zone = 'UTC', calendar, closedDay = 'as-is', time } = ringCase;
  const anchorZone = ringCase.anchorZone ?? zone;
  const { n, unit } = ringCase.offset ?? { n: 0, unit: 'day' };
  const works = (date: Temporal.PlainDate) => !calendar || intervalsOn(calendar, date).length > 0;
  if (isShort(unit)) {
    const minutes = unit.endsWith('hour') ? n * 60 : n;
    const from = dueMinute(ringCase);
    if (!unit.startsWith('work')) {
      const at = from + minutes;
      const date = dateOf(at, zone);
      const moved = walkClosed(date, closedDay, n, works);
      if (moved === null) return null;
      if (moved.equals(date)) return at;
      const wall = Temporal.Instant.fromEpochMilliseconds(at * 60_000)
        .toZonedDateTimeISO(zone)
        .toPlainTime();
      return Math.ceil(moved.toZonedDateTime({ timeZone: zone, plainTime: wall }).epochMilliseconds / 60_000);
    }
    return walkWorking(from, minutes, calendar ? openMinutes(calendar, anchorZone) : null);
  }
  const timed = ringCase.anchor.includes('T');
  let date = Temporal.PlainDate.from(ringCase.anchor.slice(0, 10));
  if (timed && time !== undefined) date = dateOf(minuteAt(ringCase.anchor, anchorZone), zone);
  if (unit === 'workday') {
    for (let left = Math.abs(n); left > 0;) {
      date = date.add({ days: Math.sign(n) });
      if (works(date)) left--;
    }
  } else date = date.add({ [`${unit}s`]: n });
  const moved = walkClosed(date, closedDay, n, works);
  if (moved === null) return null;
  const own = timed && time === undefined;
  const wall = own ? ringCase.anchor.slice(11, 16) : (time ?? '00:00');
  return minuteOf(moved, Number(wall.slice(0, 2)) * 60 + Number(wall.slice(3)), own ? anchorZone : zone);
}

function walkWorking(from: Minute, minutes: number, open: Uint8Array | null): Minute {
  const isOpen = (minute: Minute) => open === null || open[minute - FIRST_MINUTE] === 1;
  let at = from;
  if (minutes === 0) while (!isOpen(at)) at++;
  for (let left = minutes; left > 0; at++) if (isOpen(at)) left--;
  for (let left = minutes; left < 0;) if (isOpen(--at)) left++;
  return at;
}

function walkClosed(
  date: Temporal.PlainDate,
  rule: string,
  n: number,
  works: (date: Temporal.PlainDate) => boolean
): Temporal.PlainDate | null {
  if (works(date) || rule === 'as-is') return date;
  if (rule === 'skip') return null;
  const seek = (step: 1 | -1) => {
    let at = date;
    do at = at.add({ days: step });
    while (!works(at));
    return at;
  };
  const [before, after] = [seek(-1), seek(1)];
  const sameMonth = (other: Temporal.PlainDate) => other.month === date.month && other.year === date.year;
  switch (rule) {
    case 'earlier':
      return before;
    case 'onward':
      return n < 0 ? before : after;
    case 'nearest':
      return before.until(date).days < date.until(after).days ? before : after;
    case 'later-in-month':
      return sameMonth(after) ? after : sameMonth(before) ? before : after;
    case 'earlier-in-month':
      return sameMonth(before) ? before : after;
    default:
      return after;
  }
}

/** The due or start moment of the anchor. */
function dueMinute(ringCase: RingCase): Minute {
  const { anchor, as = 'due', endOfDay = 'midnight', calendar } = ringCase;
  const zone = ringCase.anchorZone ?? ringCase.zone ?? 'UTC';
  if (anchor.includes('T')) return minuteAt(anchor, zone);
  const date = Temporal.PlainDate.from(anchor);
  if (as === 'start') return startOf(date, zone);
  const closes = calendar ? intervalsOn(calendar, date).map(([, close]) => close) : [1440];
  if (endOfDay === 'close' && closes.length > 0 && Math.max(...closes) !== 1440)
    return minuteOf(date, Math.max(...closes), zone);
  return startOf(date.add({ days: 1 }), zone);
}

/** Steps 5 and 6, a minute at a time: away, then hold, asked again until neither moves. */
function walkToLeaving(ringCase: RingCase, ringAt: Minute): { leaves: Minute; stoodIn: boolean } {
  const zone = ringCase.hold?.zone ?? ringCase.zone ?? 'UTC';
  const recipient = walker(zone, ringCase.hold?.calendar, ringCase.leave);
  const others = [ringCase.standIn, ringCase.manager].flatMap((spec) =>
    spec ? [walker(spec.zone ?? zone, spec.calendar, spec.leave)] : []
  );
  const asked = new Set<Walker>([recipient]);
  const away = ringCase.away ?? (ringCase.standIn ? 'stand-in' : 'wait');
  let reader = recipient;
  let stoodIn = false;
  for (let at = ringAt; ;) {
    const before = at;
    let handed = false;
    if (reader.onLeave(at)) {
      const candidates =
        away === 'wait' ? [] : away === 'pass' ? others.slice(ringCase.standIn ? 1 : 0) : others;
      const next = candidates.find((one) => {
        if (asked.has(one)) return false;
        asked.add(one);
        return !one.onLeave(at);
      });
      handed = true;
      if (next && at === ringAt && reader === recipient) stoodIn = true;
      reader = next ?? recipient;
      if (!next && recipient.onLeave(at)) {
        while (recipient.onLeave(at)) at++;
        while (!recipient.inOpening(at)) at++;
      }
    }
    while (!reader.inReach(at)) at++;
    if (at === before && !handed) return { leaves: at, stoodIn };
  }
}
