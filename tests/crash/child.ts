import { parseArgs } from 'node:util';
import { createContainer } from '../../src/lib/server/container.ts';
import { backUp } from '../../src/lib/server/db/backup.ts';
import { CRASH_POINTS, END, START, type CrashPoint } from './points.ts';

// One life of the engine over a workspace: goes on to the end, or is killed at a point, as by a power cut.
//   --data FOLDER --smtp PORT [--point NAME --nth N]
const { values } = parseArgs({
  options: {
    data: { type: 'string' },
    smtp: { type: 'string' },
    point: { type: 'string' },
    nth: { type: 'string' }
  }
});
const container = createContainer({
  dataDir: values.data!,
  demo: true,
  startAtMs: START,
  mail: { host: '127.0.0.1', port: Number(values.smtp) },
  origin: 'http://early-bell.test',
  chance: () => 0.5,
  logLevel: 'silent'
});
container.clock.set(container.clock.now(), false);

let left = Number(values.nth ?? 1);
const wanted = CRASH_POINTS.find((one) => one === values.point);
/** Here the process ends without a word, when it is at this point for the nth time. */
function here(point: CrashPoint): void {
  if (point === wanted && --left === 0) process.kill(process.pid, 'SIGKILL');
}

container.engine.attachMeter((kind) => here(kind === 're-plan' ? 'in a re-plan' : 'between slices'));
container.outbox.attachMeter((_channel, outcome) => {
  if (outcome?.kind === 'accepted') here('accepted, not settled');
});
const begin = container.stores.changes.begin.bind(container.stores.changes);
container.stores.changes.begin = (head) => {
  const writer = begin(head);
  if (head.source === 'rule') here('in a chain');
  return writer;
};
if (wanted === 'in a backup') {
  void backUp(values.data!, `${values.data!}/backup.sqlite`);
  setImmediate(() => here('in a backup'));
}

// Whatever was leased when the last life ended goes back, in doubt.
container.work.run(() => container.stores.outbox.releaseAll());
await container.engine.moveClock(END);
await container.outbox.drain();
await container.stop();
