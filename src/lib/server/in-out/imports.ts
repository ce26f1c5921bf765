import { randomBytes } from 'node:crypto';
import { CodedError } from '../../core/errors.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { MachineClock, WorkspaceClock } from '../engine/clock.ts';
import { aTurn } from '../engine/turn.ts';
import { COLUMNS, guessMapping } from './read/columns.ts';
import { MOST_BYTES } from './read/decode.ts';
import type { ImportChoices } from './read/interpret.ts';
import { Likeness } from './read/likeness.ts';
import { NAMED_COLUMNS, fold, type Matches } from './read/names.ts';
import {
  reviewUpload,
  rowReader,
  rowsOf,
  type ImportReview,
  type JobSettings,
  type Reviewed
} from './read/review.ts';
import type { TableRow } from './read/table.ts';
import { readUpload, type Upload } from './read/upload.ts';
import type { ImportJob } from '../store/imports.ts';
import type { Stores } from '../store/all.ts';
import type { EffectView } from '../../view/effects.ts';
import type { EffectService } from '../effect/effects.ts';
import { copyIn, dropCopy, type ImportQuestion, type Prepared } from './import-aside.ts';
import { ImportWriter, type ImportCounts, type Written } from './import-write.ts';
import type { Viewer } from '../workspace/viewer.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { TaskService } from '../task/tasks.ts';

/** Uploads that were never confirmed are forgotten after a day. */
const KEPT_MS = 86_400_000;
/** Rows that are written on the spot: a quarter of a second. More are written into a copy first. */
const MOST_ON_THE_SPOT = 200;
/** Rows of an upload that are dropped at once: some milliseconds. */
const DROPPED_AT_ONCE = 2_000;
/** An import that others overtake is prepared so often, and then given up. */
const TRIES = 3;

/** How far something long is, in rows or characters. */
export interface ImportProgress {
  phase: 'reading' | 'checking' | 'writing';
  done: number;
  total: number;
}

/** What is chosen for a file before anybody has chosen. */
const FIRST_CHOICES: Omit<ImportChoices, 'mapping'> = {
  dateOrder: null,
  unknownOwners: 'skip',
  known: 'leave out',
  matches: {}
};

/** Rows that are tried out at most: it is done in one go, and everybody waits for it. */
const MOST_TRIED = 1_000;

/** Where uploads are read, looked at and written while everybody else is answered: threads. */
export interface ImportThreads {
  /** The folder in which copies are made. */
  folder: string;
  read(
    bytes: Uint8Array,
    onRows: (rows: readonly TableRow[]) => Promise<void>,
    onPart: (part: number) => void
  ): Promise<Upload>;
  review(reviewed: Reviewed, onPart: (part: number) => void): Promise<ImportReview>;
  prepare(question: ImportQuestion, onPart: (part: number) => void): Promise<Prepared>;
  takeIn(prepared: Prepared): Promise<boolean>;
}

/** What imports work with. */
export interface ImportTools {
  work: UnitOfWork;
  stores: Stores;
  clock: WorkspaceClock;
  effects: EffectService;
  tasks: TaskService;
}

/** Tasks from CSV files (RFC 4180 and its relatives): staged as read, reviewed, and written only when confirmed. */
export class ImportService {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #tasks: TaskService;
  readonly #clock: WorkspaceClock;
  readonly #machine: MachineClock;
  readonly #effects: EffectService;
  readonly #threads: () => ImportThreads | null;
  readonly #progress = new Map<string, ImportProgress>();
  /** Uploads that are being written. */
  readonly #writing = new Set<number>();

  /** @param threads null where there are none: everything is done on the spot */
  constructor(
    { work, stores, clock, effects, tasks }: ImportTools,
    committer: Committer,
    threads: () => ImportThreads | null
  ) {
    this.#effects = effects;
    this.#work = work;
    this.#stores = stores;
    this.#committer = committer;
    this.#tasks = tasks;
    this.#clock = clock;
    this.#machine = clock.machine;
    this.#threads = threads;
  }

  /**
   * Takes an upload in and stages its rows; changes no task.
   * @param token made by the uploader, so that progress can be asked for meanwhile
   * @returns the token under which it can be reviewed
   * @throws CodedError `import-too-large` before the rest is read, `import-not-text`, `import-empty`,
   * `import-header-only` or `import-too-many-rows`
   */
  async upload(
    personId: number,
    fileName: string,
    body: AsyncIterable<Uint8Array>,
    token = newImportToken()
  ): Promise<string> {
    const bytes = await readAtMost(body, MOST_BYTES);
    const { imports } = this.#stores;
    const total = bytes.byteLength;
    this.#progress.set(token, { phase: 'reading', done: 0, total });
    const jobId = this.#work.run(() => {
      imports.dropBefore(this.#machine.now() - KEPT_MS);
      return imports.add(token, personId, fileName.slice(0, 200), this.#machine.now());
    });
    try {
      const { header, delimiter, encoding, rows } = await this.#stage(jobId, token, bytes);
      const settings: JobSettings = {
        ...{ header, delimiter, encoding, rows },
        mapping: guessMapping(header),
        ...FIRST_CHOICES
      };
      await this.#work.returned();
      this.#work.run(() => imports.setState(jobId, 'ready', settings));
      return token;
    } catch (error) {
      await this.#work.returned();
      this.#work.run(() => {
        imports.dropRows(jobId);
        imports.setState(jobId, 'refused', {}, (error as Error).message);
      });
      throw error;
    } finally {
      this.#progress.delete(token);
    }
  }

  progress(token: string): ImportProgress | null {
    return this.#progress.get(token) ?? null;
  }

  /**
   * What an upload would become, with the choices made so far.
   * @throws CodedError `import-gone`
   */
  async review(token: string, personId: number, chosen: Partial<ImportChoices> = {}): Promise<ImportReview> {
    const { job, settings } = this.#job(token, personId);
    const matches = mergedMatches(settings.matches, chosen.matches);
    Object.assign(settings, chosen, { matches });
    const review = await this.#review(token, { job, settings, personId });
    await this.#work.returned();
    this.#work.run(() => {
      const { imports } = this.#stores;
      // It may have been written meanwhile.
      if (!this.#writing.has(job.id) && imports.byToken(token)?.state === 'ready')
        imports.setState(job.id, 'ready', settings);
    });
    return review;
  }

  /**
   * Writes the rows that can be imported, all of them as one change that can be undone. Many are written into a copy first, and are there all at
   * once.
   * @throws CodedError `import-gone`, `import-column-missing`, `import-dates-ambiguous`, `import-nothing`, `import-under-way` or `import-overtaken`
   */
  async confirm(actor: Actor, token: string): Promise<Committed<ImportCounts>> {
    const { review, job } = await this.#ready(actor, token);
    const written: Written = { job: idOf(job), choices: review.choices, good: review.good };
    const threads = this.#threads();
    if (!threads || review.good <= MOST_ON_THE_SPOT) return this.#confirm(actor, written);
    if (this.#writing.has(job.id)) throw new CodedError('import-under-way');
    this.#writing.add(job.id);
    try {
      return await this.#confirmAside(threads, actor, token, written);
    } finally {
      this.#writing.delete(job.id);
      this.#progress.delete(token);
    }
  }

  /**
   * What confirming would do: which bells come, go and move, and which messages leave at once.
   * @throws CodedError as `confirm`, or `preview-many` where there are too many rows to be tried out
   */
  async effect(actor: Actor, token: string, viewer: Viewer): Promise<EffectView> {
    const { review, job } = await this.#ready(actor, token);
    if (review.good > MOST_TRIED) throw new CodedError('preview-many', { most: MOST_TRIED });
    const reader = rowReader(this.#stores, review.choices);
    const likeness = new Likeness(this.#stores, actor.personId!);
    const known = [...rowsOf(this.#stores, job.id)].flatMap(({ cells }) => {
      const result = reader.read(cells, false);
      return 'problems' in result ? [] : (likeness.origin(result.task).taskId ?? []);
    });
    const written: Written = { job: idOf(job), choices: review.choices, good: review.good };
    return this.#effects.ofAct(known, () => void this.#confirm(actor, written), viewer);
  }

  /** A file that can be written as it stands. @throws CodedError as `confirm` */
  async #ready(actor: Actor, token: string): Promise<{ review: ImportReview; job: ImportJob }> {
    const review = await this.review(token, actor.personId!);
    // It may have been written while it was looked at.
    const { job } = this.#job(token, actor.personId!);
    if (review.missing[0])
      throw new CodedError('import-column-missing', { column: COLUMNS[review.missing[0]].label });
    if (review.ambiguousDate)
      throw new CodedError('import-dates-ambiguous', { example: review.ambiguousDate });
    if (review.good === 0) throw new CodedError('import-nothing');
    return { review, job };
  }

  #confirm(actor: Actor, written: Written): Committed<ImportCounts> {
    const { imports } = this.#stores;
    return this.#work.run(() => {
      const writing = { stores: this.#stores, tasks: this.#tasks };
      const importing = new ImportWriter(writing, written, actor.personId ?? 0);
      const { source, title } = importing.head;
      const committed = this.#committer.commit({ ...actor, source }, title, (writer) => {
        importing.write(writer);
        return importing.counts;
      });
      imports.dropRows(written.job.id);
      imports.setState(written.job.id, 'done', {});
      return committed;
    });
  }

  async #confirmAside(
    threads: ImportThreads,
    actor: Actor,
    token: string,
    written: Written
  ): Promise<Committed<ImportCounts>> {
    const total = written.good;
    const copy = copyIn(threads.folder, written.job.id);
    const onPart = (part: number) =>
      this.#progress.set(token, { phase: 'writing', done: Math.round(part * total), total });
    onPart(0);
    try {
      for (let tried = 0; tried < TRIES; tried++) {
        const at = { workspaceMs: this.#clock.now(), machineMs: this.#machine.now() };
        const prepared = await threads.prepare({ actor, written, at, copy }, onPart);
        const isIn = await this.#work.lend(() => threads.takeIn(prepared));
        if (!isIn) continue;
        const { changeId, result, tables, taskIds } = prepared;
        const touched = { changeId, tables: new Set(tables), taskIds: new Set(taskIds) };
        this.#committer.tookIn({ ...touched, actorId: actor.personId });
        await this.#dropRows(written.job.id);
        return { changeId, result };
      }
    } finally {
      dropCopy(copy);
    }
    throw new CodedError('import-overtaken');
  }

  /** What was read of the file is no longer needed. */
  async #dropRows(jobId: number): Promise<void> {
    const { imports } = this.#stores;
    for (;;) {
      await this.#work.returned();
      if (!this.#work.run(() => imports.dropSome(jobId, DROPPED_AT_ONCE))) return;
      await aTurn();
    }
  }

  /** Stages the rows of a file, part by part, so that others are answered meanwhile. */
  #stage(jobId: number, token: string, bytes: Uint8Array): Promise<Upload> {
    const total = bytes.byteLength;
    const onRows = async (rows: readonly TableRow[]) => {
      await this.#work.returned();
      this.#work.run(() => {
        for (const { line, cells } of rows) this.#stores.imports.addRow(jobId, line, cells);
      });
    };
    const onPart = (part: number) =>
      this.#progress.set(token, { phase: 'reading', done: Math.round(part * total), total });
    const threads = this.#threads();
    if (threads) return threads.read(bytes, onRows, onPart);
    return readUpload(bytes, async (rows, part) => {
      await onRows(rows);
      onPart(part);
      await aTurn();
    });
  }

  #review(token: string, reviewed: Reviewed): Promise<ImportReview> {
    const { rows: total } = reviewed.settings;
    const on = (done: number) => this.#progress.set(token, { phase: 'checking', done, total });
    const threads = this.#threads();
    const looked =
      threads && total > MOST_ON_THE_SPOT
        ? threads.review(reviewed, (part) => on(Math.round(part * total)))
        : reviewUpload(this.#stores, reviewed, (done) => {
            on(done);
            return aTurn();
          });
    return looked.finally(() => this.#progress.delete(token));
  }

  /** Matches every name that means nothing here with what is spelled most like it. @throws CodedError `import-gone` */
  async matchNearest(token: string, personId: number): Promise<void> {
    const { names } = await this.review(token, personId);
    const matches: Matches = {};
    for (const { column, text, chosen, near } of names)
      if (chosen === '' && near !== null) (matches[column] ??= {})[fold(text)] = near;
    await this.review(token, personId, { matches });
  }

  /**
   * Mends a cell of an upload.
   * @param index of the column in the file
   * @throws CodedError `import-gone`
   */
  mend(token: string, personId: number, line: number, index: number, text: string): void {
    const { job, settings } = this.#job(token, personId);
    const cells = this.#stores.imports.row(job.id, line);
    if (!cells || index < 0 || index >= Math.max(settings.header.length, cells.length))
      throw new CodedError('import-gone');
    const mended = Array.from({ length: Math.max(cells.length, index + 1) }, (_, i) => cells[i] ?? '');
    mended[index] = text;
    this.#work.run(() => this.#stores.imports.setRow(job.id, line, mended));
  }

  #job(token: string, personId: number): { job: ImportJob; settings: JobSettings } {
    const job = this.#stores.imports.byToken(token);
    if (!job || job.personId !== personId || job.state !== 'ready') throw new CodedError('import-gone');
    // What was chosen for an upload of before is completed.
    return { job, settings: { ...FIRST_CHOICES, ...(JSON.parse(job.settings) as JobSettings) } };
  }
}

/** Names matched before with those matched now; one that is matched with nothing is a name again like the others. */
function mergedMatches(before: Matches, now: Matches = {}): Matches {
  const merged: Matches = { ...before };
  for (const column of NAMED_COLUMNS) {
    const of = Object.entries({ ...before[column], ...now[column] }).filter(([, value]) => value !== '');
    merged[column] = Object.fromEntries(of);
  }
  return merged;
}

/** A name for an upload that nobody guesses. */
export function newImportToken(): string {
  return randomBytes(18).toString('base64url');
}

function idOf({ id, fileName }: ImportJob): Written['job'] {
  return { id, fileName };
}

async function readAtMost(body: AsyncIterable<Uint8Array>, most: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of body) {
    size += chunk.byteLength;
    if (size > most) throw new CodedError('import-too-large', { most: `${most / 2 ** 20} MB` });
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}
