import type { Parameters } from 'fast-check';

/**
 * How many cases a property draws. In the whole test they are the same in every run, so that a change is judged by what it changed;
 * `RUNS=300 npx vitest run FILE` draws so many others, and `SEED=n PATH_OF=1:2` what such a run found once more.
 */
export function drawn(runs: number): Pick<Parameters, 'numRuns' | 'seed' | 'path' | 'endOnFailure'> {
  const { RUNS, SEED, PATH_OF } = process.env;
  return {
    numRuns: Number(RUNS ?? runs),
    seed: SEED ? Number(SEED) : RUNS ? Date.now() % 2 ** 31 : 20_260_305,
    ...(PATH_OF ? { path: PATH_OF, endOnFailure: true } : {})
  };
}
