/** One line of the report: our figure, the peer's, and their ratio, all from the same run on the same inputs. */
export interface Figure {
  what: string;
  ours: string;
  /** The peer and its figure; null when it could not be run, with why in `note`. */
  peer: string | null;
  ratio: string | null;
  note?: string;
}

/** The best of some runs in ms, after one to warm up: the least disturbed one says most about the code. */
export function bestMs(runs: number, work: () => unknown): number {
  work();
  let best = Infinity;
  for (let run = 0; run < runs; run++) {
    const started = performance.now();
    work();
    best = Math.min(best, performance.now() - started);
  }
  return best;
}

/** The best of each in ms, run turn about after one of each to warm up. */
export function bestMsInTurn(runs: number, works: readonly (() => unknown)[]): number[] {
  for (const work of works) work();
  const best = works.map(() => Infinity);
  for (let run = 0; run < runs; run++)
    for (const [i, work] of works.entries()) {
      const started = performance.now();
      work();
      best[i] = Math.min(best[i]!, performance.now() - started);
    }
  return best;
}

/**
 * Bytes that the heap grows by while `work` runs, once its code has been compiled: the least of four runs, with garbage collected
 * before each. Needs `--expose-gc`.
 */
export function bytesOf(work: () => unknown): number {
  let least = Infinity;
  for (let run = 0; run < 4; run++) {
    globalThis.gc?.();
    const before = process.memoryUsage().heapUsed;
    work();
    least = Math.min(least, Math.max(0, process.memoryUsage().heapUsed - before));
  }
  return least;
}

/** `12.3 M/s` of a count in so many ms. */
export function rate(count: number, ms: number): string {
  const perSecond = (count / ms) * 1000;
  return perSecond >= 1e6 ? `${(perSecond / 1e6).toFixed(1)} M/s` : `${(perSecond / 1e3).toFixed(0)} k/s`;
}

export function ratio(ours: number, peer: number): string {
  const value = ours / peer;
  return `${value >= 10 ? value.toFixed(0) : value.toFixed(1)} ×`;
}

/** A small generator of chance (mulberry32): the same inputs in every run. */
export function chanceFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}
