import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Container } from '../../src/lib/server/container.ts';
import type { ContainerOptions } from '../../src/lib/server/options.ts';
import { openApart } from '../open-apart.ts';

/** Measures in a workspace of its own, whose clock stands at `now`; it is gone afterwards. */
export async function inWorkspace<T>(
  now: number,
  work: (container: Container) => T | Promise<T>,
  options: Partial<ContainerOptions> = {}
): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-bench-'));
  const container = openApart(folder, now, options);
  try {
    container.clock.set(now, false);
    return await work(container);
  } finally {
    container.db.close();
    rmSync(folder, { recursive: true });
  }
}
