import { MS_PER_DAY, type Day } from './day.ts';
import { Zone, zoneNamed, type InstantMs, type Transition } from './zone.ts';

/** A move to another zone: on `from` and after it, dates and times of day are read there. */
export interface ZoneMove {
  from: Day;
  zone: string;
}

/** A stretch of time in one zone. */
interface Stay {
  /** The first instant of the stay. */
  from: InstantMs;
  /** The first date of the stay. */
  fromDay: Day;
  zone: Zone;
}

const shared = new Map<string, Zone>();
/** Stands between the stays in the key of a zone; in no name of a zone. */
const BETWEEN_STAYS = '>';

/** The zone of a key, of somebody who moves or of one place. @throws CodedError `zone-unknown` */
export function zoneOfKey(key: string): Zone {
  const [first, ...moves] = key.split(BETWEEN_STAYS);
  return zoneOfMoves(
    first!,
    moves.map((move) => {
      const space = move.indexOf(' ');
      return { from: Number(move.slice(0, space)), zone: move.slice(space + 1) };
    })
  );
}

/**
 * The zone of somebody who moves: that of the place they are in. A date is read in the zone that holds on it as written, so a wall time
 * on the day of a move is one in the new place, and what the move cuts off the evening before is still told at its time in the old one.
 * @param first the zone before the first move
 * @throws CodedError `zone-unknown`
 */
export function zoneOfMoves(first: string, moves: readonly ZoneMove[]): Zone {
  if (moves.length === 0) return zoneNamed(first);
  const key = [first, ...moves.map(({ from, zone }) => `${from} ${zone}`)].join(BETWEEN_STAYS);
  const known = shared.get(key);
  if (known) return known;
  const zone = new MovingZone(key, first, moves);
  shared.set(key, zone);
  return zone;
}

class MovingZone extends Zone {
  readonly #stays: readonly Stay[];
  readonly #key: string;

  constructor(key: string, first: string, moves: readonly ZoneMove[]) {
    const stays = staysOf(first, moves);
    super(first, (from, until) => ({
      offset: stayAt(stays, from).zone.offsetAt(from),
      transitions: stays.flatMap((stay, i) => transitionsOf(stay, stays[i + 1]?.from ?? until, from, until))
    }));
    this.#stays = stays;
    this.#key = key;
  }

  override get key(): string {
    return this.#key;
  }

  override nameAt(instant: InstantMs): string {
    return stayAt(this.#stays, instant).zone.name;
  }
}

function staysOf(first: string, moves: readonly ZoneMove[]): Stay[] {
  const stays: Stay[] = [{ from: -Infinity, fromDay: -Infinity, zone: zoneNamed(first) }];
  for (const move of [...moves].sort((a, b) => a.from - b.from)) {
    const zone = zoneNamed(move.zone);
    stays.push({ from: zone.startOfDay(move.from), fromDay: move.from, zone });
  }
  // A move back before the first one has begun would stand before it.
  return stays.filter((stay, i) => i === 0 || stay.from > stays[i - 1]!.from);
}

function stayAt(stays: readonly Stay[], instant: InstantMs): Stay {
  let i = stays.length - 1;
  while (stays[i]!.from > instant) i--;
  return stays[i]!;
}

/** The move into a stay, and the clock changes of its zone while it lasts. */
function transitionsOf(stay: Stay, end: InstantMs, from: InstantMs, until: InstantMs): Transition[] {
  const start = Math.max(stay.from, from);
  const stop = Math.min(end, until);
  if (start >= stop) return [];
  const changes = stay.zone.transitionsIn(start, stop);
  if (stay.from <= from) return changes;
  const move = { at: stay.from, after: stay.zone.offsetAt(stay.from), wallFrom: stay.fromDay * MS_PER_DAY };
  return [move, ...changes];
}
