import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { backUp } from '../src/lib/server/db/backup.ts';

// `npm run backup -- --to FILE [--data FOLDER]`: copies a workspace while it runs.
const { values } = parseArgs({ options: { data: { type: 'string' }, to: { type: 'string' } } });
try {
  if (!values.to) throw new Error('Say where the backup goes: npm run backup -- --to FILE');
  const data = resolve(values.data ?? process.env.EARLY_BELL_DATA ?? 'data');
  const { file, bytes, tasks, rules } = await backUp(data, resolve(values.to));
  process.stdout.write(
    `${file}: ${tasks} tasks, ${rules} rules, ${(bytes / 2 ** 20).toFixed(1)} MB, looked over.\n`
  );
} catch (failure) {
  process.stderr.write(`${(failure as Error).message}\n`);
  process.exitCode = 1;
}
