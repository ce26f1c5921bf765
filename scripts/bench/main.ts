// `npm run bench [NAME …]`: our figures beside those of well-known libraries, measured in one run on the same inputs.
//
// Each bench has a process of its own: what one of them makes the compiler believe about the core (which shapes an argument has,
// what is worth inlining) would otherwise be charged to the next.
import { spawnSync } from 'node:child_process';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { benchBurst } from './burst.ts';
import { benchDigests } from './digests.ts';
import { benchEditor } from './editor.ts';
import { benchForecast, benchLargeForecast } from './forecast.ts';
import type { Figure } from './measure.ts';
import { benchImport } from './import.ts';
import { benchOutbox } from './outbox.ts';
import { benchPages } from './pages.ts';
import { benchPreview } from './preview.ts';
import { benchReplan } from './replan.ts';
import { benchScale } from './scale.ts';
import { benchSchedules } from './schedules.ts';
import { benchDesk } from './desk.ts';
import { benchSweep } from './sweep.ts';
import { benchTaskList } from './task-list.ts';
import { benchRecurrence } from './recurrence.ts';
import { benchWallTime } from './wall-time.ts';
import { benchWorkingDays } from './working-days.ts';
import { benchWorkingMinutes } from './working-minutes.ts';

const BENCHES: Readonly<Record<string, () => Figure[] | Promise<Figure[]>>> = {
  'working-days': benchWorkingDays,
  'working-minutes': benchWorkingMinutes,
  desk: benchDesk,
  'wall-time': benchWallTime,
  recurrence: benchRecurrence,
  forecast: benchForecast,
  'large-forecast': benchLargeForecast,
  'task-list': benchTaskList,
  replan: benchReplan,
  editor: benchEditor,
  digests: benchDigests,
  outbox: benchOutbox,
  burst: benchBurst,
  schedules: benchSchedules,
  sweep: benchSweep,
  preview: benchPreview,
  import: benchImport,
  pages: benchPages,
  'scale-10k': benchScale(10_000),
  'scale-100k': benchScale(100_000),
  'scale-1m': benchScale(1_000_000)
};
/** Marks the process that measures, and not the one that starts them. */
const MEASURE = '--measure';

const names = process.argv.slice(2);
if (names[0] === MEASURE) report(await BENCHES[names[1]!]!());
else startAll(names.length > 0 ? names : Object.keys(BENCHES));

function startAll(wanted: readonly string[]): void {
  const unknown = wanted.find((name) => !(name in BENCHES));
  if (unknown !== undefined) {
    process.stderr.write(`There is no bench "${unknown}". There are: ${Object.keys(BENCHES).join(', ')}.\n`);
    process.exitCode = 1;
    return;
  }
  const machine = `${cpus().length} × ${cpus()[0]?.model.trim() ?? 'unknown'}`;
  process.stdout.write(
    `Node ${process.version}, tz database ${process.versions.tz ?? 'unknown'}, ${machine}\n`
  );
  for (const name of wanted) {
    const args = [...process.execArgv, fileURLToPath(import.meta.url), MEASURE, name];
    const { status } = spawnSync(process.execPath, args, { stdio: 'inherit' });
    if (status !== 0) process.exitCode = 1;
  }
}

function report(figures: readonly Figure[]): void {
  for (const { what, ours, peer, ratio, note } of figures) {
    process.stdout.write(`\n${what}\n  ours   ${ours}\n`);
    if (peer) process.stdout.write(`  peer   ${peer}\n  ratio  ${ratio}\n`);
    if (note) process.stdout.write(`  note   ${note}\n`);
  }
}
