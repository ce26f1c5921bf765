import { built } from './built.ts';
import type { digestsLeft } from './digests-leaving.ts';
import type { Figure } from './measure.ts';

const PEOPLE = 2_000;
const TASKS = 100_000;

/** Everybody’s own digest at one hour. */
export async function benchDigests(): Promise<Figure[]> {
  const leaving = await built<{ digestsLeft: typeof digestsLeft }>('scripts/bench/digests-leaving.ts', {
    ssr: true
  });
  const { seconds, computing, sent, rows } = await leaving.digestsLeft(PEOPLE, TASKS);
  const count = (n: number) => n.toLocaleString('en');
  return [
    {
      what: `digests of ${count(PEOPLE)} people over ${count(TASKS)} tasks, all at one hour`,
      ours: `${seconds.toFixed(1)} s (${computing.toFixed(1)} s of it computing) for ${count(sent)} messages with ${count(rows)} rows (bar: 5 s)`,
      peer: null,
      ratio: null
    }
  ];
}
