import { parseArgs } from 'node:util';
import { parseInstant } from '../src/lib/core/time/instant.ts';
import { createContainer } from '../src/lib/server/container.ts';
import { containerOptions } from '../src/lib/server/options.ts';
import { seedDemo } from './seed.ts';

// Lays the demo workspace out: `--data FOLDER --at MOMENT`. Where the stand-ins are it reads from the environment, as the server does. Does nothing
// where it has been laid out.
const { values } = parseArgs({
  options: { data: { type: 'string' }, at: { type: 'string' } }
});
const moment = parseInstant(values.at!);
const container = createContainer({
  ...containerOptions(process.env),
  dataDir: values.data!,
  demo: true,
  startAtMs: moment,
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
