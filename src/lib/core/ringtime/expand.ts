import { CodedError, withField } from '../errors.ts';
import { occurrences } from '../recurrence/occurrences.ts';
import { parseRecurrenceRule } from '../recurrence/rrule.ts';
import { MS_PER_MINUTE } from '../time/day.ts';
import { formatZoned, instantOnWall, parseInstant, parseMoment } from '../time/instant.ts';
import { zoneNamed, type InstantMs, type Zone } from '../time/zone.ts';

/** One case of the `expand` command, of the right shape but not yet read. */
export interface ExpandCase {
  id?: string | number;
  rrule: string;
  /** Local, in `zone`. */
  start: string;
  zone?: string;
  count?: number;
  /** Local date-times that are taken out; a bare date takes out its whole day. */
  exdates?: string[];
  /** Local date-times that are added. */
  rdates?: string[];
  /** Included; a local date-time, a date or an instant. */
  from?: string;
  /** Not included. */
  to?: string;
}

/** Occurrences listed when no count is given. */
const MOST_UNASKED = 1_000;
/** Occurrences passed over before `from` after which the case is refused. */
const MOST_PASSED = 5_000_000;

/**
 * Expands one recurrence rule. COUNT counts the rule's own occurrences from `start`; then `exdates` and `rdates` are applied, then
 * `from` and `to`, last `count`.
 * @throws CodedError with the field in which the fault stands
 */
export function expandCase(expand: ExpandCase): Record<string, unknown> {
  const zone = withField('zone', () => zoneNamed(expand.zone ?? 'UTC'));
  const rule = withField('rrule', () => parseRecurrenceRule(expand.rrule));
  const start = withField('start', () => parseMoment(expand.start, zone));
  const from = expand.from === undefined ? -Infinity : withField('from', () => edge(expand.from!, zone));
  const to = expand.to === undefined ? Infinity : withField('to', () => edge(expand.to!, zone));
  const out = exclusion(expand.exdates ?? [], zone);
  const own = occurrences(rule, { day: start.day, timeMs: (start.minute ?? 0) * MS_PER_MINUTE }, zone);
  const all = merged(own, readDates(expand.rdates ?? [], start.minute ?? 0, zone), out);
  const found = withField('rrule', () => selected(all, from, to, expand.count ?? MOST_UNASKED));
  if (!found) throw new CodedError('rrule-too-dense', { most: MOST_PASSED }, 'from');
  const answer = { occurrences: found.map((instant) => formatZoned(instant, zone)) };
  return expand.id === undefined ? answer : { id: expand.id, ...answer };
}

/** The first of the instants in `[from, to)`; null when too many lie before `from`. */
function selected(
  instants: Iterable<InstantMs>,
  from: InstantMs,
  to: InstantMs,
  wanted: number
): InstantMs[] | null {
  const found: InstantMs[] = [];
  let passed = 0;
  for (const instant of instants) {
    if (instant >= to) break;
    if (instant >= from) found.push(instant);
    else if (++passed > MOST_PASSED) return null;
    if (found.length >= wanted) break;
  }
  return found;
}

/** The rule's own occurrences that are not taken out, and the added ones, ascending, each once. */
function* merged(
  own: Iterable<InstantMs>,
  added: readonly InstantMs[],
  isOut: (instant: InstantMs) => boolean
): Generator<InstantMs> {
  let next = 0;
  let last = -Infinity;
  for (const instant of own) {
    for (; next < added.length && added[next]! < instant; next++) {
      if (added[next]! > last) yield (last = added[next]!);
    }
    if (instant > last && !isOut(instant)) yield (last = instant);
  }
  for (; next < added.length; next++) if (added[next]! > last) yield (last = added[next]!);
}

function readDates(texts: readonly string[], minute: number, zone: Zone): InstantMs[] {
  const instants = texts.map((text, i) =>
    withField(`rdates.${i}`, () => {
      const moment = parseMoment(text, zone);
      return instantOnWall(moment.day, moment.minute ?? minute, moment.zone ?? zone);
    })
  );
  return instants.sort((a, b) => a - b);
}

function exclusion(texts: readonly string[], zone: Zone): (instant: InstantMs) => boolean {
  const instants = new Set<number>();
  const days = new Set<number>();
  texts.forEach((text, i) =>
    withField(`exdates.${i}`, () => {
      const { day, minute, zone: own } = parseMoment(text, zone);
      if (minute === null) days.add(day);
      else instants.add(instantOnWall(day, minute, own ?? zone));
    })
  );
  return (instant) => instants.has(instant) || (days.size > 0 && days.has(zone.dayOf(instant)));
}

function edge(text: string, zone: Zone): InstantMs {
  if (/Z$|[+-]\d{2}:?\d{2}$|\]$/i.test(text) && text.includes('T')) return parseInstant(text);
  const { day, minute } = parseMoment(text, zone);
  return minute === null ? zone.startOfDay(day) : instantOnWall(day, minute, zone);
}
