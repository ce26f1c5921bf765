import Database from 'better-sqlite3';
import { readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { Workspace } from '../workspace/workspace.ts';
import { openDatabase, openFileCopy, type Db } from '../db/open.ts';
import { UnitOfWork } from '../db/unit-of-work.ts';
import type { Seal } from '../db/seal.ts';
import { openStores } from '../store/all.ts';
import { ArrivingStore, keepOnlyWhatIsWrittenBy, type ArrivingChange } from '../store/arriving.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { RecordedTable } from '../store/recorded-tables.ts';
import type { Actor, Committer } from '../workspace/commit.ts';
import { ImportWriter, type ImportCounts, type Written } from './import-write.ts';
import type { TaskService } from '../task/tasks.ts';

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
  title: string;
  tables: readonly RecordedTable[];
  taskIds: readonly number[];
}

const COPY = 'arriving-';
/** Others write at most so many rows of a kind while one import is prepared; more, and it is prepared again. */
const GAP = 10_000;
/** How long the database may be held by somebody else before an import is given up. */
const PATIENCE_MS = 10_000;
/** Rows that are written at once; after each part it is said how far it is. */
const ROWS_AT_ONCE = 1_000;

/**
 * Writes an import into a copy of the workspace: everything that takes long is done there, and nobody waits for it. Rules that listen hear of it in
 * the workspace.
 * @param open opens the application over the copy
 * @param onPart hears how far it is, from 0 to 1
 */
export function prepareImport(
  question: ImportQuestion,
  file: string,
  open: (copy: Db, at: ImportQuestion['at']) => Workspace & { committer: Committer; tasks: TaskService },
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
    keepOnlyWhatIsWrittenBy(db);
    const { stores, tasks, committer, engine } = open(db, at);
    const asOf = stores.changes.lastId();
    stores.changes.leaveGap(GAP);
    engine.hearLater();
    const importing = new ImportWriter({ stores, tasks }, written, actor.personId ?? 0);
    const head = { ...importing.head, at: at.workspaceMs, actorId: actor.personId };
    const touched = { tables: new Set<RecordedTable>(), taskIds: [] as number[] };
    const write = (writer: ChangeWriter) => {
      const isDone = importing.write(writer, ROWS_AT_ONCE);
      for (const { table, rowId } of writer.written) {
        touched.tables.add(table);
        if (table === 'task') touched.taskIds.push(rowId);
      }
      return isDone;
    };
    const first = committer.commit({ ...actor, source: head.source }, head.title, write);
    const { changeId } = first;
    for (let isDone = first.result; !isDone;) {
      isDone = committer.more(changeId, head, write);
      onPart((importing.counts.created + importing.counts.updated) / written.good);
    }
    const { tables, taskIds } = touched;
    return {
      ...{ question, asOf, changeId, title: head.title },
      ...{ result: importing.counts, tables: [...tables], taskIds }
    };
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
  const { question, changeId, title, tables } = prepared;
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
      // What concerns every task: what a new project is.
      if (tables.includes('project')) stores.plan.enqueueAll();
      const said = { title, source: 'import', actorId: actor.personId };
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
