import { rmSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { differences, layOut, live, type Outcome } from '../tests/crash/harness.ts';
import { killSweep } from '../tests/crash/sweep-harness.ts';
import { killServer } from '../tests/crash/server-harness.ts';
import { CRASH_POINTS, type CrashPoint } from '../tests/crash/points.ts';
// @ts-expect-error a plain script
import { ensureBuild } from './setup.mjs';

// `npm run crash -- --rounds N [--point NAME]`: kills the engine with SIGKILL at points drawn by chance, lets it go on, and compares what
// is recorded and what arrived with an undisturbed run. It fails where a point was reached less often than its share of the rounds.
//   --server: instead, the web server under load with faults on, killed at moments drawn by chance
const { values } = parseArgs({
  options: { rounds: { type: 'string' }, point: { type: 'string' }, server: { type: 'boolean' } }
});
const rounds = Number(values.rounds ?? 200);
/** After so many kills it says how far it is. */
const SAID_EVERY = 10;

const say = (line: string) => process.stdout.write(`${line}\n`);
const sayHowFar = (kills: number, found = '') => {
  if (kills % SAID_EVERY === 0) say(`${kills} of ${rounds} kills${found}`);
};

await (ensureBuild as () => Promise<void>)();
process.exitCode = (await (values.server ? killTheServer() : killAtPoints())) ? 0 : 1;

/** @returns whether all is well */
async function killTheServer(): Promise<boolean> {
  const { wrong, edits, files, arrived } = await killServer(rounds, Math.random, sayHowFar);
  wrong.push(...(await sweepsCutOff()));
  for (const one of wrong) say(`  ${one}`);
  const confirmed = `${edits} edits and ${files} files confirmed`;
  say(`${rounds} kills, ${confirmed}, ${arrived} messages arrived, ${wrong.length} faults found`);
  // Nothing was found where nothing went on.
  return wrong.length === 0 && edits > 0 && files > 0 && arrived > 0;
}

/** A sweep of twelve thousand tasks is killed half-way, and its undo. @returns what went wrong */
async function sweepsCutOff(): Promise<string[]> {
  const wrong: string[] = [];
  for (const [cutOff, when, last] of [
    ['go on', 'running', 'done'],
    ['undo', 'running', 'undone'],
    ['go on', 'undoing', 'undone']
  ] as const) {
    const { killed, ended, tasks } = await killSweep(cutOff, when);
    const all = last === 'done' ? tasks : 0;
    const isRight = ended.run === last && ended.archived === all && ended.done === all && ended.twice === 0;
    if (!isRight) wrong.push(`a sweep killed while ${when} ended as ${JSON.stringify(ended)}`);
    if (killed.done !== killed.archived)
      wrong.push(`a sweep killed while ${when} stood as ${JSON.stringify(killed)}`);
  }
  return wrong;
}

/** @returns whether all is well */
async function killAtPoints(): Promise<boolean> {
  const points = CRASH_POINTS.filter((one) => values.point === undefined || one === values.point);
  if (points.length === 0) {
    say(`There is no point “${values.point}”. There are: ${CRASH_POINTS.join(', ')}.`);
    return false;
  }
  /** How often each point is met in one life at most; where that proves too much, less is taken. */
  const times: Record<CrashPoint, number> = {
    'between slices': 150,
    'in a re-plan': 8,
    'in a chain': 15,
    'accepted, not settled': 60,
    'in a backup': 1
  };
  const laidOut = await layOut();
  const right = (await live(laidOut, null))!;
  const reached = new Map<CrashPoint, number>(points.map((point) => [point, 0]));
  let kills = 0;
  let failed = 0;
  for (let round = 0; round < rounds; round++) {
    const point = points[round % points.length]!;
    let found: Outcome | null = null;
    let nth = 0;
    while (!found && times[point] > 0) {
      nth = 1 + Math.floor(Math.random() * times[point]);
      found = await live(laidOut, { point, nth });
      if (!found) times[point] = nth - 1;
    }
    if (!found) continue;
    reached.set(point, reached.get(point)! + 1);
    const wrong = differences(right, found);
    if (wrong.length > 0) {
      failed++;
      say(`${point}, time ${nth}:\n  ${wrong.slice(0, 10).join('\n  ')}`);
    }
    sayHowFar(++kills, `, ${failed} faults so far`);
  }
  rmSync(laidOut, { recursive: true });
  for (const [point, count] of reached) say(`${point}: killed ${count} times`);
  say(`${kills} of ${rounds} kills, ${failed} with something lost or said twice`);
  return failed === 0 && kills === rounds;
}
