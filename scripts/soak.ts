import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { quantile, openSoak } from '../tests/soak/open-soak.ts';
import { PER_SECOND, soak, type Sample } from '../tests/soak/soak.ts';
// @ts-expect-error a plain script
import { ensureBuild } from './setup.mjs';

// `npm run soak -- --minutes N`: the built server over the demo, twenty requests a second, its clock going on. It fails where memory grows by more than
// a tenth after five minutes, the write-ahead log or the open files grow without bound, or anything is answered with a fault of the server.
const { values } = parseArgs({ options: { minutes: { type: 'string' } } });
const minutes = Number(values.minutes ?? 20);
/** From then on memory is to stay as it is. */
const WARM_S = 5 * 60;
const MOST_GROWTH = 1.1;
/** So much of the requests that are wanted of it a second it is to answer. */
const NEARLY = 0.95;
const MOST_LOG_MB = 64;
const MOST_MORE_DESCRIPTORS = 40;

const say = (line: string) => process.stdout.write(`${line}\n`);
await (ensureBuild as () => Promise<void>)();
const folder = mkdtempSync(join(tmpdir(), 'early-bell-soak-'));
const opened = await openSoak(folder);
try {
  let said = 0;
  const { samples, requests, failed, tookMs, perSecond } = await soak(
    opened.server,
    folder,
    { seconds: minutes * 60, ...opened.with },
    (one) => {
      if (one.at < said) return;
      said = one.at + 60;
      say(`${one.at} s: ${one.memory} MB, ${one.descriptors} open files, log ${one.log} MB`);
    }
  );
  const late = samples.filter(({ at }) => at >= WARM_S);
  const third = Math.max(1, Math.floor(late.length / 3));
  const first = mean(late.slice(0, third));
  const last = mean(late.slice(-third));
  const most = (of: (one: Sample) => number) => samples.reduce((high, one) => Math.max(high, of(one)), 0);
  say(
    `${requests} requests, ${perSecond.toFixed(1)} a second; answers began after ${[0.5, 0.95, 0.99].map((q) => `p${q * 100} ${quantile(tookMs, q)} ms`).join(', ')}`
  );
  say(
    `memory: ${first} MB after ${WARM_S / 60} minutes, ${last} MB at the end, ${most((one) => one.memory)} MB at most`
  );
  say(
    `log at most ${most((one) => one.log)} MB; open files ${samples[0]?.descriptors} at first, ${most((one) => one.descriptors)} at most`
  );
  const wrong = [
    ...Object.entries(failed).map(([what, count]) => `${what}: ${count} times`),
    ...(perSecond < PER_SECOND * NEARLY
      ? [`only ${perSecond.toFixed(1)} requests a second were answered`]
      : []),
    ...(late.length > 0 && last > first * MOST_GROWTH ? [`memory grew from ${first} to ${last} MB`] : []),
    ...(most((one) => one.log) > MOST_LOG_MB ? ['the log grew'] : []),
    ...(most((one) => one.descriptors) > (samples[0]?.descriptors ?? 0) + MOST_MORE_DESCRIPTORS
      ? ['open files grew']
      : [])
  ];
  for (const one of wrong) say(`  ${one}`);
  say(`${wrong.length} faults found`);
  process.exitCode = wrong.length === 0 ? 0 : 1;
} finally {
  await opened.close();
  rmSync(folder, { recursive: true, force: true });
}

function mean(of: readonly Sample[]): number {
  return Math.round(of.reduce((sum, { memory }) => sum + memory, 0) / Math.max(1, of.length));
}
