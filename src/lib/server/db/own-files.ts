import { chmodSync, mkdirSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { isMainThread } from 'node:worker_threads';

/** What others may do with a file: nothing is left of it. */
const FOR_OTHERS = 0o077;

/** From now on whatever this program writes is its user's alone. */
export function writeForOneself(): void {
  // Threads write with what the process has; they may not change it.
  if (isMainThread) process.umask(FOR_OTHERS);
}

/**
 * Makes a folder that is its user's alone, with everything of ours that lies in it: a database holds what people wrote to each other, and the keys by which
 * they come in.
 * @param prefix of the names of our files
 */
export function keepForOneself(dir: string, prefix: string): void {
  writeForOneself();
  mkdirSync(dir, { recursive: true, mode: 0o700 });
  const own = process.getuid?.();
  for (const name of readdirSync(dir)) {
    if (!name.startsWith(prefix)) continue;
    const path = join(dir, name);
    const { mode, uid } = statSync(path);
    // Of a file that is somebody else's we may say nothing; whoever shares it has decided that.
    if ((mode & FOR_OTHERS) !== 0 && uid === own) chmodSync(path, mode & ~FOR_OTHERS);
  }
}
