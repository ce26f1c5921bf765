import { setTimeout as wait } from 'node:timers/promises';
import type { Db } from './open.ts';

/** How long whoever wants to write waits for somebody else who has the database. */
const PATIENCE_MS = 15_000;
const LOOK_AGAIN_MS = 50;

/**
 * Waits while another process has the database, so that only whoever wants to write waits, and not everybody: the database itself would hold the whole
 * process meanwhile.
 * @returns false where it has it still
 */
export async function untilWritable(db: Db, patienceMs = PATIENCE_MS): Promise<boolean> {
  const until = performance.now() + patienceMs;
  for (;;) {
    if (isWritable(db)) return true;
    if (performance.now() >= until) return false;
    await wait(LOOK_AGAIN_MS);
  }
}

function isWritable(db: Db): boolean {
  if (db.inTransaction) return true;
  const [{ timeout }] = db.pragma('busy_timeout') as [{ timeout: number }];
  db.pragma('busy_timeout = 0');
  try {
    db.exec('BEGIN IMMEDIATE; COMMIT');
    return true;
  } catch (failure) {
    if ((failure as { code?: string }).code?.startsWith('SQLITE_BUSY')) return false;
    // Whatever else is wrong is said by what is then written.
    return true;
  } finally {
    db.pragma(`busy_timeout = ${timeout}`);
  }
}
