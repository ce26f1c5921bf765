import { dirname } from 'node:path';
import type { ImportThreads } from '../in-out/imports.ts';
import type { Threads } from './threads.ts';

/**
 * Reading, looking at and writing uploads in threads; null where there are none.
 * @param writers those that write: nobody waits for one while the database is lent
 */
export function importThreads(threads: Threads, writers: Threads, file: string): ImportThreads | null {
  if (!threads.areThere) return null;
  return {
    folder: dirname(file),
    read: (bytes, onRows, onPart) => threads.ask('read upload', { bytes }, { onRows, onPart }),
    review: (reviewed, onPart) => threads.ask('review upload', reviewed, { onPart }),
    prepare: (question, onPart) => threads.ask('prepare import', question, { onPart }),
    takeIn: (prepared) => writers.ask('take in', prepared, { ends: true })
  };
}
