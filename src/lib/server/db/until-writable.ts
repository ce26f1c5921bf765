import { setTimeout as wait } from 'node:timers/promises';
import type { UnitOfWork } from './unit-of-work.ts';

/** How long whoever wants to write waits for somebody else who has the database. */
const PATIENCE_MS = 15_000;
const LOOK_AGAIN_MS = 50;

/**
 * Waits while another process has the database, so that only whoever wants to write waits, and not everybody: the database itself would hold the whole
 * process meanwhile.
 * @returns false where it has it still
 */
export async function untilWritable(work: UnitOfWork, patienceMs = PATIENCE_MS): Promise<boolean> {
  const until = performance.now() + patienceMs;
  for (;;) {
    if (work.isFree()) return true;
    if (performance.now() >= until) return false;
    await wait(LOOK_AGAIN_MS);
  }
}
