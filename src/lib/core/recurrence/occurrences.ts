import { CodedError } from '../errors.ts';
import { LAST_DAY, MS_PER_DAY, type Day } from '../time/day.ts';
import type { InstantMs, LocalMs, Zone } from '../time/zone.ts';
import { dayMatches, daysOfPeriod, firstDayOfPeriod, seriesOf, type SeriesStart } from './periods.ts';
import type { RecurrenceRule } from './rrule.ts';

/** Steps below a day without an occurrence after which a rule is taken to have none. */
const MOST_BARREN_STEPS = 1_000_000;
const STEP_MS = { HOURLY: 3_600_000, MINUTELY: 60_000, SECONDLY: 1_000 } as const;

/** An occurrence: its instant, and the wall reading that the rule gives it. In a gap that reading is one that no wall shows. */
export interface Occurrence {
  at: InstantMs;
  local: LocalMs;
}

/** The instants of the occurrences of a rule, as `occurrencesOnWall` gives them. */
export function* occurrences(rule: RecurrenceRule, start: SeriesStart, zone: Zone): Generator<InstantMs> {
  for (const { at } of occurrencesOnWall(rule, start, zone)) yield at;
}

/**
 * The occurrences of a rule from its start on, ascending, each once; at most up to 2200. Day and longer run
 * on the wall: a time in a gap moves later by the gap, a date that the zone skipped drops. What is shorter advances in
 * elapsed time and tests its BY parts on the wall. A start that the rule does not produce is no occurrence.
 * @throws CodedError `rrule-barren` for a rule below a day that produces nothing for a million steps
 */
export function occurrencesOnWall(
  rule: RecurrenceRule,
  start: SeriesStart,
  zone: Zone
): Generator<Occurrence> {
  return rule.frequency in STEP_MS ? belowADay(rule, start, zone) : byDays(rule, start, zone);
}

/** Where a series ends: at its UNTIL or when its COUNT is used up. Instants that are not after the last are one with it. */
class End {
  readonly #rule: RecurrenceRule;
  readonly #zone: Zone;
  readonly #until: InstantMs;
  #last = -Infinity;
  #left: number;

  constructor(rule: RecurrenceRule, zone: Zone) {
    const { until, count } = rule;
    this.#rule = rule;
    this.#zone = zone;
    this.#left = count ?? Infinity;
    this.#until =
      until?.kind === 'utc' ? until.at : until?.kind === 'local' ? zone.instantOf(until.at) : Infinity;
  }

  /** Whether an instant is an occurrence of its own. */
  isNew(instant: InstantMs): boolean {
    return instant > this.#last;
  }

  /** Takes the next occurrence in. @returns false when it lies after the end */
  take(instant: InstantMs): boolean {
    const { until } = this.#rule;
    if (instant > this.#until || (until?.kind === 'date' && this.#zone.dayOf(instant) > until.day))
      return false;
    this.#last = instant;
    this.#left--;
    return true;
  }

  get isReached(): boolean {
    return this.#left <= 0;
  }
}

function* byDays(rule: RecurrenceRule, start: SeriesStart, zone: Zone): Generator<Occurrence> {
  const times = timesOf(rule, start.timeMs);
  const first = start.day * MS_PER_DAY + start.timeMs;
  const series = seriesOf(start);
  const end = new End(rule, zone);
  for (let k = 0; ; k++) {
    if (firstDayOfPeriod(rule, series, k) > LAST_DAY) return;
    const days = daysOfPeriod(rule, series, k);
    const size = days.length * times.length;
    const chosen = rule.bySetPos.length > 0 ? positions(rule.bySetPos, size) : null;
    for (let i = 0; i < (chosen ? chosen.length : size); i++) {
      const index = chosen ? chosen[i]! : i;
      const day = days[Math.floor(index / times.length)]!;
      const local = day * MS_PER_DAY + times[index % times.length]!;
      if (local < first) continue;
      if (day > LAST_DAY) return;
      const instant = zone.instantOf(local);
      // Only a time that its wall does not show can belong to a date that the zone skipped.
      if (zone.localOf(instant) !== local && isSkipped(day, zone)) continue;
      if (!end.isNew(instant)) continue;
      if (!end.take(instant)) return;
      yield { at: instant, local };
      if (end.isReached) return;
    }
  }
}

/** Times of day in ms: the start's, with each part replaced by its BY part. Ascending. */
function timesOf(rule: RecurrenceRule, startMs: number): number[] {
  const seconds = rule.bySecond.length > 0 ? rule.bySecond : [Math.floor(startMs / 1000) % 60];
  const minutes = rule.byMinute.length > 0 ? rule.byMinute : [Math.floor(startMs / 60_000) % 60];
  const hours = rule.byHour.length > 0 ? rule.byHour : [Math.floor(startMs / 3_600_000)];
  return hours.flatMap((hour) =>
    minutes.flatMap((minute) => seconds.map((second) => ((hour * 60 + minute) * 60 + second) * 1000))
  );
}

/** Indexes of BYSETPOS within a set of `size`, ascending, each once. */
function positions(bySetPos: readonly number[], size: number): number[] {
  const indexes = bySetPos.map((n) => (n > 0 ? n - 1 : size + n)).filter((i) => i >= 0 && i < size);
  return [...new Set(indexes)].sort((a, b) => a - b);
}

function isSkipped(day: Day, zone: Zone): boolean {
  // A date exists unless its whole day lies in a gap: then its first instant is the next date's.
  return zone.startOfDay(day) === zone.startOfDay(day + 1);
}

/**
 * Hours, minutes and seconds advance in elapsed time. States: at each step the local date is tested first, then the hour,
 * then the minute; what fails is jumped over in one step, so that a rule for one month does not count its seconds.
 */
function* belowADay(rule: RecurrenceRule, start: SeriesStart, zone: Zone): Generator<Occurrence> {
  const frequency = rule.frequency as keyof typeof STEP_MS;
  const stepMs = STEP_MS[frequency] * rule.interval;
  const first = zone.instantOf(start.day * MS_PER_DAY + start.timeMs);
  const end = new End(rule, zone);
  let barren = 0;
  for (let at = first; ;) {
    const local = zone.localOf(at);
    const day = Math.floor(local / MS_PER_DAY);
    if (day > LAST_DAY) return;
    const jump = jumpOver(rule, frequency, day, local, at, zone);
    if (jump > at) {
      at += Math.ceil((jump - at) / stepMs) * stepMs;
    } else {
      for (const instant of withinStep(rule, frequency, local, at)) {
        if (instant < first || !end.isNew(instant)) continue;
        if (!end.take(instant)) return;
        barren = 0;
        yield { at: instant, local: zone.localOf(instant) };
        if (end.isReached) return;
      }
      at += stepMs;
    }
    if (++barren > MOST_BARREN_STEPS) throw new CodedError('rrule-barren');
  }
}

/** Until when nothing can match; `at` itself when this step can. */
function jumpOver(
  rule: RecurrenceRule,
  frequency: keyof typeof STEP_MS,
  day: Day,
  local: number,
  at: InstantMs,
  zone: Zone
): InstantMs {
  if (!dayMatches(rule, day)) return zone.startOfDay(day + 1);
  const hour = Math.floor(local / 3_600_000) % 24;
  if (rule.byHour.length > 0 && !rule.byHour.includes((hour + 24) % 24))
    return at + (3_600_000 - (((local % 3_600_000) + 3_600_000) % 3_600_000));
  if (frequency === 'HOURLY' || rule.byMinute.length === 0) return at;
  const minute = ((Math.floor(local / 60_000) % 60) + 60) % 60;
  return rule.byMinute.includes(minute) ? at : at + (60_000 - (((local % 60_000) + 60_000) % 60_000));
}

/** What one hour, minute or second expands to: shorter BY parts, chosen by BYSETPOS. */
function withinStep(
  rule: RecurrenceRule,
  frequency: keyof typeof STEP_MS,
  local: number,
  at: InstantMs
): InstantMs[] {
  const second = ((Math.floor(local / 1000) % 60) + 60) % 60;
  if (frequency === 'SECONDLY')
    return rule.bySecond.length === 0 || rule.bySecond.includes(second) ? [at] : [];
  const minute = ((Math.floor(local / 60_000) % 60) + 60) % 60;
  const minutes = frequency === 'HOURLY' && rule.byMinute.length > 0 ? rule.byMinute : [minute];
  const seconds = rule.bySecond.length > 0 ? rule.bySecond : [second];
  const set = minutes.flatMap((m) => seconds.map((s) => at + (m - minute) * 60_000 + (s - second) * 1000));
  return rule.bySetPos.length === 0 ? set : positions(rule.bySetPos, set.length).map((i) => set[i]!);
}
