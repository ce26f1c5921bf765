import { parseArgs } from 'node:util';
import { CodedError } from '../src/lib/core/errors.ts';
import { parseInstant } from '../src/lib/core/time/instant.ts';
import { createContainer } from '../src/lib/server/container.ts';
import { containerOptions } from '../src/lib/server/options.ts';
import { seedDemo } from './seed.ts';

// Lays the demo workspace out: `--data FOLDER --at MOMENT`. Where the stand-ins are it reads from the environment, as the server does. Does nothing
// where it has been laid out.
try {
  await layOut();
} catch (error) {
  if (!(error instanceof CodedError)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}

async function layOut(): Promise<void> {
  const { values } = parseArgs({ options: { data: { type: 'string' }, at: { type: 'string' } } });
  const moment = parseInstant(values.at!);
  const container = createContainer({
    ...containerOptions(process.env),
    dataDir: values.data!,
    demo: true,
    startAtMs: moment,
    logLevel: 'warn'
  });
  if (!container.stores.engineState.read('seeded')) {
    const started = Date.now();
    const isShown = process.stdout.isTTY;
    await seedDemo(container, moment, (part) => {
      if (isShown) process.stdout.write(`\r  four weeks pass: ${Math.round(part * 100)} %`);
    });
    const seconds = ((Date.now() - started) / 1000).toFixed(1);
    process.stdout.write(`${isShown ? '\r' : ''}  four weeks have passed in ${seconds} s\n`);
  }
  await container.stop();
}
