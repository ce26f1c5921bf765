import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { openDatabase } from '../../src/lib/server/db/open.ts';
import { openWorkspace, type TestWorkspace } from './workspace.ts';

/** A workspace in a folder of its own, with the threads of the built application. */
export interface Threaded {
  folder: string;
  workspace: TestWorkspace;
  /** Ends it, and its folder is gone. */
  close(): Promise<void>;
}

/**
 * Its clock stands on Thursday 5 March 2026 at 07:00 UTC.
 * @param threadFile what its threads run
 */
export async function openThreaded(threadFile = resolve('build', 'parts', 'thread.js')): Promise<Threaded> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-threaded-'));
  const db = openDatabase(join(folder, 'early-bell.sqlite'));
  const workspace = await openWorkspace('2026-03-05T07:00:00Z', { db, threadFile });
  return {
    ...{ folder, workspace },
    async close() {
      await workspace.close();
      rmSync(folder, { recursive: true, force: true });
    }
  };
}
