import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { restore } from '../src/lib/server/db/backup.ts';

// `npm run restore -- --from FILE [--data FOLDER]`: puts a backup in the place of a workspace that does not run.
const { values } = parseArgs({ options: { data: { type: 'string' }, from: { type: 'string' } } });
try {
  if (!values.from) throw new Error('Say which backup: npm run restore -- --from FILE');
  const data = resolve(values.data ?? process.env.EARLY_BELL_DATA ?? 'data');
  const { facts, before } = restore(data, resolve(values.from));
  process.stdout.write(
    `The workspace in ${data} is that of the backup: ${facts.tasks} tasks, ${facts.rules} rules.\n` +
      `${before ? `What was there is kept as ${before}.\n` : ''}` +
      'At the next start the engine stands still until somebody has answered on the Bell tower.\n'
  );
} catch (failure) {
  process.stderr.write(`${(failure as Error).message}\n`);
  process.exitCode = 1;
}
