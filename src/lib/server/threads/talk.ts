import type { ErrorCode, ErrorParams } from '../../core/errors.ts';
import type { ContainerOptions } from '../options.ts';
import type { CalendarFile } from '../in-out/read/calendar-ics.ts';
import type { FileRow } from '../in-out/read/leave-file.ts';
import type { ImportReview, Reviewed } from '../in-out/read/review.ts';
import type { TableRow } from '../in-out/read/table.ts';
import type { Upload } from '../in-out/read/upload.ts';
import type { ImportQuestion, Prepared } from '../in-out/import-aside.ts';
import type { Look } from '../tryout/asked.ts';
import type { ActAnswer, ActQuestion } from '../tryout/act-question.ts';
import type { ViewQuestion } from './view-question.ts';

/** What a thread can be asked for: what it is given, and what it answers. Both are plain data. */
export interface Jobs {
  /** What an act would do. */
  look: { given: Look; answer: unknown };
  /** The rows of an uploaded file, said part by part. */
  'read upload': { given: { bytes: Uint8Array }; answer: Upload };
  'review upload': { given: Reviewed; answer: ImportReview };
  /** An import, written into a copy of the workspace. */
  'prepare import': { given: ImportQuestion; answer: Prepared };
  /** What was written into the copy is taken into the workspace; false where the workspace has moved on too far for that. */
  'take in': { given: Prepared; answer: boolean };
  /** An act on very many tasks is done. */
  act: { given: ActQuestion; answer: ActAnswer };
  /** What comes after its page. */
  view: { given: ViewQuestion; answer: unknown };
  'read calendar': { given: { text: string; fromYear: number; toYear: number }; answer: CalendarFile };
  'read leave': { given: { text: string }; answer: FileRow[] };
}
export type JobName = keyof Jobs;

export type Question = { [N in JobName]: { job: N; given: Jobs[N]['given'] } }[JobName];

/** Whoever asked has taken the rows that were said. */
export const TAKEN = 'taken';

/** Options that are plain data: they can be given to another thread. */
export type PlainOptions = Omit<ContainerOptions, 'db' | 'channels' | 'machine' | 'chance' | 'logTo'>;

export function plainOptions(options: ContainerOptions): PlainOptions {
  const plain = { ...options };
  for (const name of ['db', 'channels', 'machine', 'chance', 'logTo'] as const) delete plain[name];
  return plain;
}

/** What a thread is told once. */
export interface Told {
  options: PlainOptions;
  /** The file of the workspace. */
  file: string;
}

/** What it says of a question: how far it has come, from 0 to 1, rows, and then its answer, or why there is none. */
export type Said =
  | { part: number }
  | { rows: readonly TableRow[] }
  | { answer: unknown }
  | { refused: { code: ErrorCode; params: ErrorParams; field: string | undefined } }
  | { failed: string };
