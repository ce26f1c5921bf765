/** What is done in threads. */

import pino from 'pino';
import { Outbox } from '../outbox/outbox.ts';
import { FileReading } from '../threads/file-reading.ts';
import { importThreads } from '../threads/import-threads.ts';
import { LaterViews } from '../threads/later-views.ts';
import { Threads } from '../threads/threads.ts';
import type { LookServices } from '../tryout/looks.ts';
import type { LaterServices } from '../workspace/later.ts';
import { LongActs } from '../tryout/long-acts.ts';
import { TryOuts } from '../tryout/try-outs.ts';
import type { Db } from '../db/open.ts';
import type { ContainerOptions } from '../options.ts';

/** Looks at acts, imports and files that are worked on side by side. */
const LONG_AT_ONCE = 2;

/** What is asked of everything that is done in threads. */
type Services = LookServices & LaterServices & { outbox: Outbox };

/** What takes long is done in threads. */
export function threadServices(
  app: () => Services,
  of: { db: Db; options: ContainerOptions; log: pino.Logger }
) {
  const file = of.options.threadFile ?? null;
  const threads = new Threads(of, file, LONG_AT_ONCE);
  // What is read for pages waits for nothing that takes long.
  const readers = new Threads(of, file, 1);
  // The database is lent to one at a time.
  const writers = new Threads(of, file, 1);
  const tryOuts = new TryOuts(app, threads);
  return {
    threads,
    readers,
    writers,
    later: new LaterViews(app, readers),
    tryOuts,
    longActs: new LongActs(app, writers, tryOuts),
    files: new FileReading(threads),
    importThreads: () => importThreads(threads, writers, of.db.name)
  };
}
