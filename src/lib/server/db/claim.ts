import Database from 'better-sqlite3';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';

const LOOK_AGAIN_MS = 500;

/** The hold on a workspace: nobody else opens it until it is let go, or the process ends, however it ends. */
export interface Claim {
  release(): void;
}

/**
 * Claims a workspace for this process: two engines on one file would ring twice. The hold is an exclusive transaction on a file beside the
 * database, which the operating system lets go with the process.
 * @param dir folder of the workspace
 * @returns null when another process has it
 */
export function tryClaim(dir: string): Claim | null {
  mkdirSync(dir, { recursive: true });
  const lock = new Database(join(dir, 'early-bell.lock'), { timeout: 0 });
  try {
    lock.exec('BEGIN EXCLUSIVE');
  } catch (failure) {
    lock.close();
    if ((failure as { code?: string }).code?.startsWith('SQLITE_BUSY')) return null;
    throw failure;
  }
  return { release: () => void lock.close() };
}

/**
 * Claims a workspace, and waits while another process has it.
 * @param onWait called once when it has to wait
 */
export async function claimWorkspace(dir: string, onWait: () => void): Promise<Claim> {
  for (let waited = false; ; waited = true) {
    const claim = tryClaim(dir);
    if (claim) return claim;
    if (!waited) onWait();
    await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS));
  }
}
