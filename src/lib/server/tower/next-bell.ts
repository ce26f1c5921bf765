import { MS_PER_DAY } from '../../core/time/day.ts';
import type { WorkspaceClock } from '../engine/clock.ts';

/** How far ahead the next bell is looked for. */
const AHEAD_MS = 3 * MS_PER_DAY;
/** It is looked for again after so many times as long as that took: every page shows it, and no page may wait for it again and again. */
const REST = 10;
/** What takes no longer than this is looked for anew after every change. */
const QUICK_MS = 30;

interface Found {
  /** The first bell of each reader, workspace clock. */
  byReader: ReadonlyMap<number, number>;
  /** Machine clock. */
  foundAt: number;
  tookMs: number;
  /** How far the workspace clock stood from the machine's: another one was moved. */
  offset: number;
}

/** Looks when the first notice to each reader leaves in `(from, until]`, workspace clock, for somebody who is signed in. */
export type FirstBells = (
  personId: number,
  from: number,
  until: number
) => Promise<Iterable<readonly [number, number]>>;

/** The next bell, as every page shows it at the top. */
export class NextBell {
  readonly #firstBells: FirstBells;
  readonly #clock: WorkspaceClock;
  #found: Found | null = null;
  /** What is being looked for. */
  #looking: Promise<Found> | null = null;
  #changed = false;

  constructor(firstBells: FirstBells, clock: WorkspaceClock) {
    this.#firstBells = firstBells;
    this.#clock = clock;
  }

  /** Something was changed. */
  changed(): void {
    this.#changed = true;
  }

  /**
   * When the next bell leaves, and to how many people at that instant; null when none does within three days.
   * @param readerId whose bells count; null for everybody's
   * @param personId who asks
   */
  async of(readerId: number | null, personId: number): Promise<{ at: number; people: number } | null> {
    const { byReader } = await this.#now(personId);
    if (readerId !== null) {
      const at = byReader.get(readerId);
      return at === undefined ? null : { at, people: 1 };
    }
    let at = Infinity;
    let people = 0;
    for (const own of byReader.values())
      if (own < at) [at, people] = [own, 1];
      else if (own === at) people++;
    return people === 0 ? null : { at, people };
  }

  #now(personId: number): Promise<Found> | Found {
    const { machine } = this.#clock;
    const found = this.#found;
    const isFresh =
      found !== null &&
      Math.abs(found.offset - this.#offset()) < 1_000 &&
      !(this.#changed && found.tookMs <= QUICK_MS) &&
      machine.now() - found.foundAt < Math.max(1_000, REST * found.tookMs);
    if (isFresh) return found;
    return (this.#looking ??= this.#look(personId).finally(() => (this.#looking = null)));
  }

  async #look(personId: number): Promise<Found> {
    const { machine } = this.#clock;
    const now = this.#clock.now();
    const offset = this.#offset();
    const began = machine.steadyMs();
    this.#changed = false;
    const byReader = new Map(await this.#firstBells(personId, now, now + AHEAD_MS));
    const tookMs = machine.steadyMs() - began;
    return (this.#found = { byReader, foundAt: machine.now(), tookMs, offset });
  }

  #offset(): number {
    const now = this.#clock.now();
    return this.#clock.running ? now - this.#clock.machine.now() : now;
  }
}
