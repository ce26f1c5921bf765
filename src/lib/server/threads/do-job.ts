import Database from 'better-sqlite3';
import { openCopy, type Db } from '../db/open.ts';
import { Seal } from '../db/seal.ts';
import { readCalendarFile } from '../in-out/read/calendar-ics.ts';
import { readLeaveFile } from '../in-out/read/leave-file.ts';
import { reviewUpload, type ImportReview, type Reviewed } from '../in-out/read/review.ts';
import { readUpload } from '../in-out/read/upload.ts';
import type { TableRow } from '../in-out/read/table.ts';
import { prepareImport, takeIn } from '../in-out/import-aside.ts';
import { openStores } from '../store/all.ts';
import { writeAct } from '../tryout/act-writing.ts';
import { openAside } from '../tryout/aside.ts';
import type { Look } from '../tryout/asked.ts';
import { lookAt } from '../tryout/looks.ts';
import type { Reader } from './reader.ts';
import type { Question, Told } from './talk.ts';

/** What a job knows of where it is done, and to whom it says how far it has come. */
export interface Port {
  told: Told;
  /** Keeps what it has read from one view to the next. */
  reader: Reader;
  sayPart(part: number): void;
  /** Ends once they are taken. */
  sayRows(rows: readonly TableRow[]): Promise<void>;
}

/** Does what a thread was asked for. @throws CodedError what keeps it from being done */
export function doJob(question: Question, port: Port): unknown {
  const { file, options } = port.told;
  switch (question.job) {
    case 'look':
      return look(question.given, port);
    case 'view':
      return port.reader.view(question.given);
    case 'read upload':
      return readUpload(question.given.bytes, async (rows, part) => {
        await port.sayRows(rows);
        port.sayPart(part);
      });
    case 'review upload':
      return review(question.given, port);
    case 'prepare import':
      return prepareImport(question.given, file, (copy, at) => openAside(copy, options, at), port.sayPart);
    case 'take in':
      return takeIn(question.given, file, new Seal(options.sealKeys!));
    case 'act':
      return writeAct(question.given, file, options);
    case 'read calendar':
      return readCalendarFile(question.given.text, question.given.fromYear, question.given.toYear);
    case 'read leave':
      return readLeaveFile(question.given.text);
  }
}

function look({ personId, asked, at }: Look, { told, sayPart }: Port): unknown {
  const copy = reading(told.file, openCopy);
  try {
    const app = openAside(copy, told.options, at);
    app.effects.attach(sayPart);
    return lookAt(app, personId, asked);
  } finally {
    copy.close();
  }
}

function review(reviewed: Reviewed, { told, sayPart }: Port): Promise<ImportReview> {
  const { rows } = reviewed.settings;
  return reading(told.file, async (db) => {
    // All of it is of one moment.
    db.exec('BEGIN');
    const stores = openStores(db, new Seal(told.options.sealKeys!));
    return reviewUpload(stores, reviewed, (done) => sayPart(done / rows));
  });
}

/** Whoever reads keeps nobody from writing. */
function reading<T>(file: string, work: (db: Db) => T): T {
  const db = new Database(file, { readonly: true });
  const close = () => void db.close();
  let result: T;
  try {
    result = work(db);
  } catch (failure) {
    close();
    throw failure;
  }
  if (result instanceof Promise) void result.then(close, close);
  else close();
  return result;
}
