// `npm run bench`: our figures beside those of well-known libraries, measured in one run on the same inputs.
import { cpus } from 'node:os';
import { benchForecast } from './forecast.ts';
import { benchRecurrence } from './recurrence.ts';
import { benchWallTime } from './wall-time.ts';
import { benchWorkingDays } from './working-days.ts';
import { benchWorkingMinutes } from './working-minutes.ts';

process.stdout.write(
  `Node ${process.version}, tz database ${process.versions.tz ?? 'unknown'}, ${cpus().length} × ${cpus()[0]?.model.trim() ?? 'unknown'}\n`
);
for (const bench of [benchWorkingDays, benchWorkingMinutes, benchWallTime, benchRecurrence, benchForecast]) {
  for (const { what, ours, peer, ratio, note } of bench()) {
    process.stdout.write(`\n${what}\n  ours   ${ours}\n`);
    if (peer) process.stdout.write(`  peer   ${peer}\n  ratio  ${ratio}\n`);
    if (note) process.stdout.write(`  note   ${note}\n`);
  }
}
