import { rmSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { differences, layOut, live } from '../tests/crash/harness.ts';
import { killServer } from '../tests/crash/server-harness.ts';
import { CRASH_POINTS, type CrashPoint } from '../tests/crash/points.ts';

// `npm run crash -- --rounds N [--point NAME]`: kills the engine with SIGKILL at points drawn by chance, lets it go on, and compares what
// is recorded and what arrived with an undisturbed run. It fails where a point was never reached.
//   --server: instead, the web server under load with faults on, killed at moments drawn by chance
const { values } = parseArgs({
  options: { rounds: { type: 'string' }, point: { type: 'string' }, server: { type: 'boolean' } }
});
const rounds = Number(values.rounds ?? 200);
if (values.server) {
  const { wrong, edits, arrived } = await killServer(rounds, Math.random);
  const faults = wrong.map((one) => `  ${one}\n`).join('');
  process.stdout.write(
    `${faults}${rounds} kills, ${edits} edits confirmed, ${arrived} messages arrived, ${wrong.length} faults found\n`
  );
  // Nothing was found where nothing went on.
  process.exit(wrong.length > 0 || edits === 0 || arrived === 0 ? 1 : 0);
}
const points = values.point ? CRASH_POINTS.filter((one) => one === values.point) : CRASH_POINTS;
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
let failed = 0;
for (let round = 0; round < rounds; round++) {
  const point = points[round % points.length]!;
  let found: Awaited<ReturnType<typeof live>> = null;
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
    process.stdout.write(`${point}, time ${nth}:\n  ${wrong.slice(0, 10).join('\n  ')}\n`);
  }
}
for (const [point, count] of reached) process.stdout.write(`${point}: killed ${count} times\n`);
const missed = [...reached].some(([, count]) => count === 0);
process.stdout.write(`${rounds} rounds, ${failed} with something lost or said twice\n`);
rmSync(laidOut, { recursive: true });
if (failed > 0 || missed) process.exitCode = 1;
