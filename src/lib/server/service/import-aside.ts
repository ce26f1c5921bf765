import Database from 'better-sqlite3';
import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Container } from '../container.ts';
import { openDatabase, openFileCopy, type Db } from '../db/open.ts';
import { UnitOfWork } from '../db/unit-of-work.ts';
import type { Seal } from '../db/seal.ts';
import { openStores } from '../store/all.ts';
import { ArrivingStore, type ArrivingChange } from '../store/arriving.ts';
import type { Actor, Committed } from './commit.ts';
import { titleOf, writeImport, type ImportCounts, type Written } from './import-write.ts';

/** An upload that is to be written into a copy of the workspace. */
export interface ImportQuestion {
  actor: Actor;
  written: Written;
  /** Both clocks, ms: the import is of that moment. */
  at: { workspaceMs: number; machineMs: number };
  /** Where the copy is made. */
  copy: string;
}

/** An import that is written into a copy. */
export interface Prepared extends ArrivingChange {
  question: ImportQuestion;
  result: ImportCounts;
}

const COPY = 'arriving-';
/** Others write at most so many rows of a kind while one import is prepared; more, and it is prepared again. */
const GAP = 10_000;
/** How long the database may be held by somebody else before an import is given up. */
const PATIENCE_MS = 10_000;
/** Rows between two words about how far it is. */
const SAID_EVERY = 500;

/**
 * Writes an import into a copy of the workspace: everything that takes long is done there, and nobody waits for it. Rules that listen hear of it in
 * the workspace.
 * @param open opens the application over the copy
 * @param onPart hears how far it is, from 0 to 1
 */
export function prepareImport(
  question: ImportQuestion,
  file: string,
  open: (copy: Db, at: ImportQuestion['at']) => Container,
  onPart: (part: number) => void
): Prepared {
  const { actor, written, at, copy } = question;
  dropCopy(copy);
  const source = new Database(file, { readonly: true });
  try {
    source.prepare('VACUUM INTO ?').run(copy);
  } finally {
    source.close();
  }
  const db = openFileCopy(copy);
  try {
    const app = open(db, at);
    const asOf = app.stores.changes.lastId();
    app.stores.changes.leaveGap(GAP);
    app.engine.hearLater();
    const done: Committed<ImportCounts> = writeImport(app, actor, written, (count) => {
      if (count % SAID_EVERY === 0) onPart(count / written.good);
    });
    return { question, asOf, ...done };
  } finally {
    db.close();
  }
}

/**
 * Takes a prepared import into the workspace: all of it in one transaction, with its record, its line in the journal and the plans that it makes
 * stale.
 * @returns false where others have changed meanwhile what it goes by: it must be prepared again
 */
export function takeIn(prepared: Prepared, file: string, seal: Seal): boolean {
  const { question, changeId } = prepared;
  const { actor, written, at, copy } = question;
  const db = openDatabase(file);
  db.pragma(`busy_timeout = ${PATIENCE_MS}`);
  const arriving = new ArrivingStore(db, copy);
  try {
    const stores = openStores(db, seal);
    const work = new UnitOfWork(db, (error) => {
      throw error;
    });
    return work.run(() => {
      if (arriving.isOvertaken(prepared)) return false;
      arriving.take(prepared);
      for (const { cause, taskIds } of arriving.stale(changeId))
        stores.plan.enqueue(taskIds, { cause, changeId, actorId: actor.personId });
      if (stores.changes.madeProjects(changeId)) stores.plan.enqueueAll();
      const said = { title: titleOf(written), source: 'import', actorId: actor.personId };
      stores.journal.add(at.workspaceMs, at.machineMs, 'change', said, changeId);
      stores.imports.setState(written.job.id, 'done', {});
      return true;
    });
  } catch (failure) {
    // Somebody has taken a key, or removed what a row names, where no change says so.
    if ((failure as { code?: string }).code?.startsWith('SQLITE_CONSTRAINT')) return false;
    throw failure;
  } finally {
    arriving.close();
    db.close();
  }
}

/** Where the copy for an upload is made: in the folder of the workspace. */
export function copyIn(folder: string, jobId: number): string {
  return join(folder, `${COPY}${jobId}`);
}

/** What a kill has left of copies is of no use to anybody. */
export function dropLeftCopies(folder: string): void {
  for (const name of readdirSync(folder)) if (name.startsWith(COPY)) rmSync(join(folder, name));
}

/** The copy is gone, with what SQLite keeps beside it. */
export function dropCopy(copy: string): void {
  for (const end of ['', '-journal', '-wal', '-shm']) rmSync(copy + end, { force: true });
}
