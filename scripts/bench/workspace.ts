import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createContainer, type Container, type ContainerOptions } from '../../src/lib/server/container.ts';

/** Measures in a workspace of its own, whose clock stands at `now`; it is gone afterwards. */
export async function inWorkspace<T>(
  now: number,
  work: (container: Container) => T | Promise<T>,
  options: Partial<ContainerOptions> = {}
): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-bench-'));
  const container = createContainer({
    dataDir: folder,
    demo: true,
    startAtMs: now,
    mail: { host: '127.0.0.1', port: 1 },
    origin: 'http://bench.example',
    logLevel: 'silent',
    ...options
  });
  try {
    container.clock.set(now, false);
    return await work(container);
  } finally {
    container.db.close();
    rmSync(folder, { recursive: true });
  }
}
