import { parseArgs } from 'node:util';
import { parseInstant } from '../src/lib/core/time/instant.ts';
import { createContainer } from '../src/lib/server/container.ts';
import { seedDemo } from './seed.ts';

// Lays the demo workspace out: `--data FOLDER --at MOMENT --smtp PORT`. Does nothing where it has been laid out.
const { values } = parseArgs({
  options: { data: { type: 'string' }, at: { type: 'string' }, smtp: { type: 'string' } }
});
const moment = parseInstant(values.at!);
const container = createContainer({
  dataDir: values.data!,
  demo: true,
  startAtMs: moment,
  mail: { host: '127.0.0.1', port: Number(values.smtp) },
  postRoomUrl: null,
  origin: process.env.ORIGIN ?? 'http://localhost:3000',
  logLevel: 'warn'
});
const seeded = container.stores.engineState.read<{ moment: number }>('seeded');
if (!seeded) {
  const started = Date.now();
  await seedDemo(container, moment, (part) => {
    if (process.stdout.isTTY) process.stdout.write(`\r  four weeks pass: ${Math.round(part * 100)} %`);
  });
  process.stdout.write(
    `${process.stdout.isTTY ? '\r' : ''}  four weeks have passed in ${((Date.now() - started) / 1000).toFixed(1)} s\n`
  );
}
await container.stop();
