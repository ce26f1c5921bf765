import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ChildProcess } from 'node:child_process';
// @ts-expect-error plain scripts that start the application for people and for tests alike
import { layOutDemo, startStandIn } from '../../scripts/serve.mjs';

/** The moment of the demo. */
export const DEMO_MOMENT = '2026-03-05T07:40Z';
/** Where the stand-ins keep what they have, within a folder of data. */
export const STAND_INS = 'mail';

/** Lays the demo out once, before all tests: each file that needs it starts with a copy. @returns what takes it away again */
export default async function layOut(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-laid-out-'));
  const standIn = (await startStandIn(join(folder, STAND_INS))) as { child: ChildProcess };
  const ended = new Promise((resolve) => standIn.child.once('exit', resolve));
  // Nobody follows a link of the four weeks that have passed.
  await layOutDemo({ data: folder, at: DEMO_MOMENT, standIn, origin: 'http://localhost:1' });
  standIn.child.kill('SIGTERM');
  await ended;
  process.env.E2E_LAID_OUT = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
