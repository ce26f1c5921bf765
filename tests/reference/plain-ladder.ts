import { DAY, type Minute, type PlainPeople } from './plain-people.ts';

/** A level before the date counts days back to 09:00; one after it working hours, or days on to 10:00. */
export interface Level {
  before?: number;
  hours?: number;
  days?: number;
  /** Repeats every day, so many times in all. */
  most?: number;
}

export interface Span {
  from: Minute;
  until: Minute;
}

export interface LevelRing {
  level: number;
  repeat: number;
  at: Minute;
  origin: number;
}

/** A ladder over a task, as things stand. */
export interface LadderOf {
  people: PlainPeople;
  levels: readonly Level[];
  owner: string;
  /** The due date, and when it is over. */
  due: number;
  dueAt: Minute;
  /** From when its clock runs. */
  starts: Minute;
  /** While it stands still, and while it would not be told before the date either. */
  pauses: readonly Span[];
  stops: readonly Span[];
  /** When an acknowledgement has run out. */
  wakes: readonly Minute[];
  isQuiet: (at: Minute) => boolean;
}

/** When each level rings: a walk minute by minute. */
export class PlainLadder {
  readonly #of: LadderOf;

  constructor(of: LadderOf) {
    this.#of = of;
  }

  /** When each level rings, as things stand. */
  rings(): LevelRing[] {
    const { pauses, starts, levels } = this.#of;
    const isPaused = (at: Minute) =>
      pauses.some(({ from, until }) => (from < at || (from <= at && from <= starts)) && at < until);
    const plain: LevelRing[] = [];
    levels.forEach((one, level) => {
      if (one.before !== undefined) return;
      if (one.hours !== undefined) {
        const at = this.#afterHours(starts, one.hours * 60, pauses);
        if (at !== null)
          plain.push({ level, repeat: 0, at, origin: this.#of.people.dayOf(this.#of.owner, at) });
      } else plain.push(...this.#onDays(level, one, starts, isPaused));
    });
    const woken = this.#woken(plain, starts, pauses);
    const before = this.#levelsBefore();
    return [
      ...before.map(({ level, at }) => ({
        level,
        repeat: 0,
        at,
        origin: this.#of.people.dayOf(this.#of.owner, at)
      })),
      ...plain.map((ring) => this.#inOrder(ring, woken, [...woken, ...before]))
    ];
  }

  /** One that would come before a lower level comes right after that. */
  #inOrder(ring: LevelRing, all: readonly LevelRing[], lower: readonly LevelRing[]): LevelRing {
    const own = all.find(({ level, repeat }) => level === ring.level && repeat === ring.repeat)!;
    let at = own.at;
    for (const one of lower) if (one.level < ring.level && one.repeat === 0) at = Math.max(at, one.at);
    if (at === own.at) return own;
    return { ...ring, at, origin: this.#of.people.dayOf(this.#of.owner, at) };
  }

  /** A minute of work at a time, but none in a pause. */
  #afterHours(starts: Minute, minutes: number, pauses: readonly Span[]): Minute | null {
    let left = minutes;
    for (let at = starts; at < starts + 120 * DAY; at++) {
      const pause = pauses.find(({ from, until }) => from <= at && at < until);
      const begins = pause?.from === at && at > starts;
      // It had come to its end as the pause began.
      if (left === 0 && minutes > 0 && begins && this.#of.people.isOpen(this.#of.owner, at - 1)) return at;
      if (
        left === 0 &&
        minutes > 0 &&
        !pause &&
        at > starts &&
        this.#of.people.isOpen(this.#of.owner, at - 1)
      )
        return at;
      if (left === 0 && begins && this.#of.people.isOpen(this.#of.owner, at)) return at;
      if (pause?.until === Infinity) return null;
      if (pause || !this.#of.people.isOpen(this.#of.owner, at)) continue;
      if (left === 0) return at;
      left--;
    }
    return null;
  }

  #onDays(level: number, { days, most = 1 }: Level, starts: Minute, isPaused: (at: Minute) => boolean) {
    const found: LevelRing[] = [];
    const dueAt = this.#of.dueAt;
    let day = starts === dueAt ? this.#of.due : this.#of.people.dayOf(this.#of.owner, starts);
    let counted = 0;
    // As many as there may be: those that come to one moment leave as one, and use up one.
    for (let looked = 0; looked < 90 && found.length < (most === 1 ? 1 : 30); looked++) {
      day++;
      const at = this.#of.people.at(this.#of.owner, day, 600);
      if (at < starts || isPaused(at)) continue;
      counted++;
      if (counted < days!) continue;
      let rolled = day;
      const isNot = () =>
        !this.#of.people.works(this.#of.owner, rolled) ||
        isPaused(this.#of.people.at(this.#of.owner, rolled, 600));
      for (let i = 0; i < 90 && isNot(); i++) rolled++;
      if (isNot()) break;
      found.push({
        level,
        repeat: counted - days!,
        at: this.#of.people.at(this.#of.owner, rolled, 600),
        origin: day
      });
    }
    return found;
  }

  /** The first that would come after an acknowledgement has run out comes at the next opening instead. */
  #woken(plain: readonly LevelRing[], starts: Minute, pauses: readonly Span[]): LevelRing[] {
    const rings = plain.map((ring) => ({ ...ring }));
    const done = new Set<LevelRing>();
    for (const wake of this.#of.wakes) {
      if (wake < starts) continue;
      let at = wake;
      const isPaused = () => pauses.some(({ from, until }) => from <= at && at < until);
      for (let i = 0; i < 120 * DAY && (isPaused() || !this.#of.people.isOpen(this.#of.owner, at)); i++) at++;
      if (pauses.some(({ from, until }) => until === Infinity && from <= at)) continue;
      let lowest = -Infinity;
      for (const ring of rings) {
        const stands = Math.max(ring.at, lowest);
        if (ring.repeat === 0) lowest = stands;
        if (stands < wake || done.has(ring)) continue;
        if (stands > at) {
          ring.at = at;
          ring.origin = this.#of.people.dayOf(this.#of.owner, at);
          done.add(ring);
        }
        break;
      }
    }
    return rings;
  }

  /** Levels before the date: on their day, or caught up at the first opening after a pause that ends before the date. */
  #levelsBefore(): LevelRing[] {
    const found: LevelRing[] = [];
    const stops = this.#of.stops;
    const own = (level: number) =>
      this.#of.people.at(this.#of.owner, this.#of.due - this.#of.levels[level]!.before!, 540);
    const all = this.#of.levels.flatMap(({ before }, level) => (before === undefined ? [] : level));
    for (const level of all) {
      let at = own(level);
      const pause = stops.find(({ from, until }) => from < at && at < until);
      const isQuiet = this.#of.isQuiet(at);
      const isLatest = pause && !all.some((other) => own(other) > at && own(other) < pause.until);
      if (pause && !isQuiet && isLatest && pause.until < this.#of.dueAt)
        at = this.#of.people.opening(this.#of.owner, pause.until - 1);
      found.push({ level, repeat: 0, at, origin: this.#of.people.dayOf(this.#of.owner, at) });
    }
    return found;
  }
}

export function join(spans: readonly Span[]): Span[] {
  const out: Span[] = [];
  for (const span of spans.filter(({ from, until }) => until > from).sort((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && span.from <= last.until) last.until = Math.max(last.until, span.until);
    else out.push({ ...span });
  }
  return out;
}
