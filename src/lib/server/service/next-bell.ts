import { MS_PER_DAY } from '../../core/time/day.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { ForecastService } from './forecasts.ts';

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

/** The next bell, as every page shows it at the top. */
export class NextBell {
  readonly #forecasts: ForecastService;
  readonly #clock: WorkspaceClock;
  #found: Found | null = null;
  #changed = false;

  constructor(forecasts: ForecastService, clock: WorkspaceClock) {
    this.#forecasts = forecasts;
    this.#clock = clock;
  }

  /** Something was changed. */
  changed(): void {
    this.#changed = true;
  }

  /**
   * When the next bell leaves, and to how many people at that instant; null when none does within three days.
   * @param readerId whose bells count; null for everybody's
   */
  of(readerId: number | null): { at: number; people: number } | null {
    const { byReader } = this.#now();
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

  #now(): Found {
    const { machine } = this.#clock;
    const now = this.#clock.now();
    const offset = this.#clock.running ? now - machine.now() : now;
    const found = this.#found;
    const isFresh =
      found !== null &&
      Math.abs(found.offset - offset) < 1_000 &&
      !(this.#changed && found.tookMs <= QUICK_MS) &&
      machine.now() - found.foundAt < Math.max(1_000, REST * found.tookMs);
    if (isFresh) return found;
    const began = machine.steadyMs();
    const byReader = this.#forecasts.firstByReader(now, now + AHEAD_MS);
    this.#changed = false;
    return (this.#found = { byReader, foundAt: machine.now(), tookMs: machine.steadyMs() - began, offset });
  }
}
