import { Temporal } from 'temporal-polyfill';
import { FIRST_DAY, LAST_DAY, MS_PER_DAY, dayFromParts, partsOfDay, type Day } from './day.ts';
import { canonicalZoneName } from './zone-names.ts';

/** A moment in time, in milliseconds since 1970-01-01T00:00Z. Always UTC. */
export type InstantMs = number;

/** A wall-clock reading, in milliseconds since 1970-01-01T00:00 on that same wall. Belongs to no zone. */
export type LocalMs = number;

/** Years in one block of a compiled zone: reading fifty years of transitions costs 30 to 70 ms, so only what is asked for is read. */
const BLOCK_YEARS = 50;
const FIRST_BLOCK_YEAR = 1900;
const BLOCKS = Math.ceil((partsOfDay(LAST_DAY).year + 1 - FIRST_BLOCK_YEAR) / BLOCK_YEARS);

const BLOCK_STARTS: readonly InstantMs[] = Array.from(
  { length: BLOCKS + 1 },
  (_, block) => dayFromParts(FIRST_BLOCK_YEAR + block * BLOCK_YEARS, 1, 1) * MS_PER_DAY
);

/** Bucket width for looking up a transition: 2^31 ms, about 25 days. No zone in the tz database has changed three times in one. */
const BUCKET_MS = 2 ** 31;

interface Block {
  /** Instants of the transitions in the block, ascending, closed by +Infinity. */
  at: Float64Array;
  /** Offset east of UTC in ms before each of them; the last entry holds after all of them. */
  before: Float64Array;
  /** The same transitions on the wall: the offset before `at[i]` holds for local times below `wallAt[i]`. */
  wallAt: Float64Array;
  /** For each bucket of the block, the index of its first transition not before the bucket. */
  bucket: Uint16Array;
  wallBucket: Uint16Array;
}

/** A change of offset. */
export interface Transition {
  at: InstantMs;
  /** Offset east of UTC in ms from then on. */
  after: number;
  /** The wall reading from which on the new offset is meant; absent: what a gap or an overlap says. */
  wallFrom?: LocalMs;
}

/** Where the offsets of a zone come from: the offset at `from`, and its transitions in `(from, until)`, ascending. */
export type TransitionReader = (
  from: InstantMs,
  until: InstantMs
) => { offset: number; transitions: Transition[] };

/**
 * One time zone compiled to integer tables. Transitions come from the runtime's tzdata through Temporal, once per
 * fifty years when first needed, and are kept.
 */
export class Zone {
  /** As given: a link keeps its own name. */
  readonly name: string;
  readonly #read: TransitionReader;
  readonly #blocks: (Block | undefined)[] = new Array<Block | undefined>(BLOCKS);

  /** Use `zoneNamed`, which shares compiled zones, or `zoneOfMoves`. */
  constructor(name: string, read: TransitionReader) {
    this.name = name;
    this.#read = read;
  }

  /** Tells it from other zones; the same in every process. */
  get key(): string {
    return this.name;
  }

  /** The IANA name of the zone in which somebody of this zone is at an instant. */
  nameAt(_instant: InstantMs): string {
    return this.name;
  }

  /** Offset east of UTC in ms at an instant. */
  offsetAt(instant: InstantMs): number {
    const index = blockIndex(instant);
    const block = this.#blocks[index] ?? this.#load(index);
    let i = block.bucket[bucketIndex(instant, index)]!;
    while (block.at[i]! <= instant) i++;
    return block.before[i]!;
  }

  /** The wall reading of an instant. */
  localOf(instant: InstantMs): LocalMs {
    return instant + this.offsetAt(instant);
  }

  /** The local date of an instant. */
  dayOf(instant: InstantMs): Day {
    return Math.floor(this.localOf(instant) / MS_PER_DAY);
  }

  /**
   * The instant of a wall reading. A reading in a gap moves later by the gap; one that exists twice takes the first
   * (RFC 5545 §3.3.5; Temporal's `compatible`). The offset before a transition T holds for every local time below
   * T + the larger of the two offsets, so one search answers both.
   */
  instantOf(local: LocalMs): InstantMs {
    const index = blockIndex(local);
    const block = this.#blocks[index] ?? this.#load(index);
    let i = block.wallBucket[bucketIndex(local, index)]!;
    while (block.wallAt[i]! <= local) i++;
    return local - block.before[i]!;
  }

  /** Whether a wall reading comes twice, because clocks were set back over it. */
  isRepeated(local: LocalMs): boolean {
    const first = this.instantOf(local);
    const index = blockIndex(first);
    const block = this.#blocks[index] ?? this.#load(index);
    let i = block.bucket[bucketIndex(first, index)]!;
    while (block.at[i]! <= first) i++;
    return i < block.at.length - 1 && local >= block.at[i]! + block.before[i + 1]!;
  }

  /** First instant of a date; of a date that the zone skipped, the first instant after it. Cairo 2026-04-24 starts at 01:00. */
  startOfDay(day: Day): InstantMs {
    const local = day * MS_PER_DAY;
    const instant = this.instantOf(local);
    // In a gap `instantOf` lands after the first instant by as much as midnight lies inside the gap.
    const landed = this.localOf(instant);
    return landed === local ? instant : this.#gapEndBefore(instant);
  }

  /** End of a date: the first instant of the next date that exists. */
  endOfDay(day: Day): InstantMs {
    return this.startOfDay(day + 1);
  }

  /** The dates in `[from, until)` that the zone jumped over, as Apia did over 2011-12-30. */
  skippedDays(from: Day, until: Day): Day[] {
    const skipped: Day[] = [];
    const last = blockIndex(until * MS_PER_DAY);
    for (let index = blockIndex(from * MS_PER_DAY); index <= last; index++) {
      const { at, before } = this.#blocks[index] ?? this.#load(index);
      for (let i = 0; i < at.length - 1; i++) {
        if (before[i + 1]! - before[i]! < MS_PER_DAY) continue;
        const first = Math.ceil((at[i]! + before[i]!) / MS_PER_DAY);
        const end = Math.floor((at[i]! + before[i + 1]!) / MS_PER_DAY);
        for (let day = first; day < end; day++) if (day >= from && day < until) skipped.push(day);
      }
    }
    return skipped;
  }

  /** The changes of offset in `(from, until)`, ascending. */
  transitionsIn(from: InstantMs, until: InstantMs): Transition[] {
    return this.#read(from, until).transitions;
  }

  #gapEndBefore(instant: InstantMs): InstantMs {
    const index = blockIndex(instant);
    const block = this.#blocks[index] ?? this.#load(index);
    let i = block.bucket[bucketIndex(instant, index)]!;
    while (block.at[i]! <= instant) i++;
    return i > 0 ? block.at[i - 1]! : instant;
  }

  #load(index: number): Block {
    const from = BLOCK_STARTS[index]! - 2 * MS_PER_DAY;
    const until = BLOCK_STARTS[index + 1]! + 2 * MS_PER_DAY;
    const { offset, transitions } = this.#read(from, until);
    const at = transitions.map((transition) => transition.at);
    const before = [offset, ...transitions.map(({ after }) => after)];
    const wallAt: number[] = [];
    transitions.forEach((transition, i) => {
      const wall = transition.wallFrom ?? transition.at + Math.max(before[i]!, before[i + 1]!);
      wallAt.push(Math.max(wall, wallAt[i - 1] ?? -Infinity));
    });
    const block: Block = {
      at: Float64Array.from([...at, Infinity]),
      before: Float64Array.from(before),
      wallAt: Float64Array.from([...wallAt, Infinity]),
      bucket: bucketsOf(at, index),
      wallBucket: bucketsOf(wallAt, index)
    };
    this.#blocks[index] = block;
    return block;
  }
}

function bucketsOf(transitions: readonly number[], index: number): Uint16Array {
  const start = BLOCK_STARTS[index]!;
  const buckets = new Uint16Array(Math.ceil((BLOCK_STARTS[index + 1]! - start) / BUCKET_MS) + 1);
  let i = 0;
  for (let b = 0; b < buckets.length; b++) {
    while (i < transitions.length && transitions[i]! < start + b * BUCKET_MS) i++;
    buckets[b] = i;
  }
  return buckets;
}

function blockIndex(ms: number): number {
  let index = 0;
  while (index < BLOCKS - 1 && ms >= BLOCK_STARTS[index + 1]!) index++;
  return index;
}

function bucketIndex(ms: number, index: number): number {
  return Math.max(0, Math.min(Math.floor((ms - BLOCK_STARTS[index]!) / BUCKET_MS), MAX_BUCKET[index]!));
}

const MAX_BUCKET: readonly number[] = Array.from({ length: BLOCKS }, (_, index) =>
  Math.ceil((BLOCK_STARTS[index + 1]! - BLOCK_STARTS[index]!) / BUCKET_MS)
);

const shared = new Map<string, Zone>();

/**
 * The compiled zone of a name, shared by all who ask.
 * @throws CodedError `zone-unknown`, with the nearest names
 */
export function zoneNamed(name: string): Zone {
  const known = shared.get(name);
  if (known) return known;
  canonicalZoneName(name);
  const zone = new Zone(name, (from, until) => readTransitions(name, from, until));
  shared.set(name, zone);
  return zone;
}

/** The transitions of the runtime's tzdata. */
function readTransitions(name: string, from: InstantMs, until: InstantMs): ReturnType<TransitionReader> {
  let cursor = Temporal.Instant.fromEpochMilliseconds(from).toZonedDateTimeISO(name);
  const offset = cursor.offsetNanoseconds / 1e6;
  const transitions: Transition[] = [];
  for (let last = offset; ;) {
    const next = cursor.getTimeZoneTransition('next');
    if (!next || next.epochMilliseconds >= until) return { offset, transitions };
    cursor = next;
    const after = next.offsetNanoseconds / 1e6;
    if (after !== last) transitions.push({ at: next.epochMilliseconds, after });
    last = after;
  }
}

/** First and last instant that any zone's dates in range can have. */
export const FIRST_INSTANT: InstantMs = (FIRST_DAY - 2) * MS_PER_DAY;
export const LAST_INSTANT: InstantMs = (LAST_DAY + 3) * MS_PER_DAY;
