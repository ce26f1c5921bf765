import { randomBytes } from 'node:crypto';
import Papa from 'papaparse';
import { CodedError } from '../../core/errors.ts';
import type { ReminderTiming } from '../../core/forecast/reminders.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { MachineClock } from '../engine/clock.ts';
import { COLUMNS, guessMapping, type ColumnName } from '../import/columns.ts';
import { ambiguousExample, findDateOrder, type DateOrder } from '../import/dates.ts';
import { MOST_BYTES, decodeText, type Encoding } from '../import/decode.ts';
import { RowReader, type ImportChoices, type RowProblem, type RowTask } from '../import/interpret.ts';
import { Likeness, type Origin } from '../import/likeness.ts';
import { NAMED_COLUMNS, fold, type Match, type Matches, type NamedColumn } from '../import/names.ts';
import { NamesSeen } from '../import/names-seen.ts';
import type { ChangeWriter } from '../store/changes.ts';
import type { ImportJob } from '../store/imports.ts';
import type { Stores } from '../store/all.ts';
import type { EffectView } from '../../view/effects.ts';
import type { EffectService } from './effects.ts';
import type { Viewer } from './viewer.ts';
import type { Actor, Committed, Committer } from './commit.ts';
import type { TaskService } from './tasks.ts';

export const MOST_ROWS = 100_000;
const ROWS_PER_SLICE = 2_000;
const PREVIEW_ROWS = 8;
const SHOWN_PROBLEMS = 200;
/** Uploads that were never confirmed are forgotten after a day. */
const KEPT_MS = 86_400_000;

/** What was found in a file, and what was chosen for it. */
interface JobSettings extends ImportChoices {
  header: string[];
  delimiter: string;
  encoding: Encoding;
  rows: number;
}

export interface ImportProgress {
  phase: 'reading' | 'checking';
  done: number;
  total: number;
}

export interface ImportReview {
  fileName: string;
  header: string[];
  delimiter: string;
  encoding: Encoding;
  choices: ImportChoices;
  rows: number;
  /** Rows that can be imported as they stand. */
  good: number;
  created: number;
  updated: number;
  /** Rows that are here already by title, project and date, or stand in the file twice. */
  known: { count: number; first: { line: number; name: string; taskId: number | null }[] };
  /** Every fault of a row, each with its cell. */
  problems: {
    line: number;
    cells: string[];
    faults: { column: ColumnName; index: number; reason: string }[];
  }[];
  problemCount: number;
  preview: { line: number; task: RowTask }[];
  /** Names that mean nothing here, or are matched by hand, and what is spelled most like each. */
  names: { column: NamedColumn; text: string; rows: number; chosen: string; near: string | null }[];
  /** What they can be matched with. */
  nameChoices: Record<NamedColumn, readonly Match[]>;
  newProjects: string[];
  /** A date that can be read two ways, when nothing in the column decides which and nobody has chosen. */
  ambiguousDate: string | null;
  /** Columns that must be chosen before anything can be imported. */
  missing: ColumnName[];
}

/** What is chosen for a file before anybody has chosen. */
const FIRST_CHOICES: Omit<ImportChoices, 'mapping'> = {
  dateOrder: null,
  unknownOwners: 'skip',
  known: 'leave out',
  matches: {}
};
/** Names that are shown to be matched by hand. */
const SHOWN_NAMES = 60;
const SHOWN_KNOWN = 8;

/** Rows that are tried out at most: it is done in one go, and everybody waits for it. */
const MOST_TRIED = 1_000;

/** Tasks from CSV files (RFC 4180 and its relatives): staged as read, reviewed, and written only when confirmed. */
export class ImportService {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #tasks: TaskService;
  readonly #machine: MachineClock;
  readonly #effects: EffectService;
  readonly #progress = new Map<string, ImportProgress>();

  constructor(
    work: UnitOfWork,
    stores: Stores,
    committer: Committer,
    tasks: TaskService,
    effects: EffectService,
    machine: MachineClock
  ) {
    this.#effects = effects;
    this.#work = work;
    this.#stores = stores;
    this.#committer = committer;
    this.#tasks = tasks;
    this.#machine = machine;
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
    const { text, encoding } = decodeText(bytes);
    const { imports } = this.#stores;
    this.#progress.set(token, { phase: 'reading', done: 0, total: text.length });
    const jobId = this.#work.run(() => {
      imports.dropBefore(this.#machine.now() - KEPT_MS);
      return imports.add(token, personId, fileName.slice(0, 200), this.#machine.now());
    });
    try {
      const { header, delimiter, rows } = await this.#stage(jobId, token, text);
      const settings: JobSettings = {
        header,
        delimiter,
        encoding,
        rows,
        mapping: guessMapping(header),
        ...FIRST_CHOICES
      };
      this.#work.run(() => imports.setState(jobId, 'ready', settings));
      return token;
    } catch (error) {
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
    const dates = await this.#dateOrder(job, settings);
    const choices = { ...settings, dateOrder: settings.dateOrder ?? dates.order };
    const review: ImportReview = {
      fileName: job.fileName,
      header: settings.header,
      delimiter: settings.delimiter,
      encoding: settings.encoding,
      choices: {
        mapping: settings.mapping,
        dateOrder: choices.dateOrder,
        unknownOwners: settings.unknownOwners,
        known: settings.known,
        matches: settings.matches
      },
      rows: settings.rows,
      good: 0,
      created: 0,
      updated: 0,
      known: { count: 0, first: [] },
      problems: [],
      problemCount: 0,
      preview: [],
      names: [],
      nameChoices: this.#reader(choices).names.choices,
      newProjects: [],
      ambiguousDate: settings.dateOrder === null ? dates.ambiguous : null,
      missing: settings.mapping.name === undefined ? ['name'] : []
    };
    if (review.missing.length === 0) await this.#check(job, choices, review, { token, personId });
    this.#work.run(() => this.#stores.imports.setState(job.id, 'ready', settings));
    return review;
  }

  /**
   * Writes the rows that can be imported, all in one transaction that can be undone.
   * @throws CodedError `import-gone`, `import-column-missing`, `import-dates-ambiguous` or `import-nothing`
   */
  async confirm(actor: Actor, token: string): Promise<Committed<{ created: number; updated: number }>> {
    const { review, job } = await this.#ready(actor, token);
    return this.#confirm(actor, review, job);
  }

  /**
   * What confirming would do: which bells come, go and move, and which messages leave at once.
   * @throws CodedError as `confirm`, or `preview-many` where there are too many rows to be tried out
   */
  async effect(actor: Actor, token: string, viewer: Viewer): Promise<EffectView> {
    const { review, job } = await this.#ready(actor, token);
    if (review.good > MOST_TRIED) throw new CodedError('preview-many', { most: MOST_TRIED });
    const reader = this.#reader(review.choices);
    const likeness = new Likeness(this.#stores, actor.personId!);
    const known = [...this.#rows(job)].flatMap(({ cells }) => {
      const result = reader.read(cells);
      return 'problems' in result ? [] : (likeness.origin(result.task).taskId ?? []);
    });
    return this.#effects.ofAct(known, () => void this.#confirm(actor, review, job), viewer);
  }

  /** A file that can be written as it stands. @throws CodedError as `confirm` */
  async #ready(actor: Actor, token: string): Promise<{ review: ImportReview; job: ImportJob }> {
    const review = await this.review(token, actor.personId!);
    if (review.missing[0])
      throw new CodedError('import-column-missing', { column: COLUMNS[review.missing[0]].label });
    if (review.ambiguousDate)
      throw new CodedError('import-dates-ambiguous', { example: review.ambiguousDate });
    if (review.good === 0) throw new CodedError('import-nothing');
    return { review, job: this.#job(token, actor.personId!).job };
  }

  #confirm(
    actor: Actor,
    review: ImportReview,
    job: ImportJob
  ): Committed<{ created: number; updated: number }> {
    const reader = this.#reader(review.choices);
    return this.#committer.commit(
      { ...actor, source: 'import' },
      `${review.good} tasks imported from ${job.fileName}`,
      (writer) => {
        const counts = this.#write(writer, job, reader, review.choices.known);
        this.#stores.imports.dropRows(job.id);
        this.#stores.imports.setState(job.id, 'done', {});
        return counts;
      }
    );
  }

  #write(
    writer: ChangeWriter,
    job: ImportJob,
    reader: RowReader,
    known: ImportChoices['known']
  ): { created: number; updated: number } {
    const counts = { created: 0, updated: 0 };
    const projects = new Map<string, number>();
    const likeness = new Likeness(this.#stores, writer.head.actorId ?? 0);
    for (const { cells } of this.#rows(job)) {
      const result = reader.read(cells);
      if ('problems' in result) continue;
      const origin = likeness.origin(result.task);
      const fate = fateOf(origin, known);
      if (fate === 'left out') continue;
      const { newProject, key, reminder, ...input } = result.task;
      if (newProject) {
        const folded = fold(newProject);
        const id = projects.get(folded) ?? writer.insert('project', { name: newProject });
        projects.set(folded, id);
        input.projectId = id;
      }
      const existing = fate === 'updated' ? (origin.taskId ?? this.#stores.tasks.idByImportKey(key!)) : null;
      const id = existing ?? this.#tasks.insert(writer, input, key);
      if (existing !== null) {
        const task = this.#stores.tasks.byId(existing)!;
        this.#tasks.update(writer, task, { ...input, private: task.private });
      }
      if (reminder) this.#remind(writer, id, reminder);
      counts[fate]++;
    }
    return counts;
  }

  /** A reminder for whoever owns the task, once however often the file is read. */
  #remind(writer: ChangeWriter, taskId: number, timing: ReminderTiming): void {
    const text = JSON.stringify(timing);
    const known = this.#stores.taskParts.reminders(taskId);
    if (known.some((one) => one.personId === null && JSON.stringify(one.timing) === text)) return;
    writer.insert('reminder', {
      task_id: taskId,
      person_id: null,
      timing: text,
      set_by: writer.head.actorId
    });
  }

  /** Parses the text in slices, so that other requests are served meanwhile. */
  #stage(
    jobId: number,
    token: string,
    text: string
  ): Promise<{ header: string[]; delimiter: string; rows: number }> {
    const addRows = (rows: readonly { line: number; cells: string[] }[]) =>
      this.#work.run(() => {
        for (const { line, cells } of rows) this.#stores.imports.addRow(jobId, line, cells);
      });
    return new Promise((resolve, reject) => {
      let header: string[] | null = null;
      let line = 0;
      let delimiter = ',';
      let rows = 0;
      Papa.parse<string[]>(text, {
        skipEmptyLines: 'greedy',
        chunkSize: 512 * 1024,
        chunk: ({ data, meta }: Papa.ParseResult<string[]>, parser: Papa.Parser) => {
          delimiter = meta.delimiter;
          const batch: { line: number; cells: string[] }[] = [];
          for (const cells of data) {
            line++;
            if (header === null) header = cells.map((cell) => cell.trim());
            else batch.push({ line, cells: cells.map(undefuse) });
          }
          rows += batch.length;
          if (rows > MOST_ROWS) {
            reject(new CodedError('import-too-many-rows', { most: MOST_ROWS.toLocaleString('en') }));
            return parser.abort();
          }
          addRows(batch);
          this.#progress.set(token, { phase: 'reading', done: meta.cursor, total: text.length });
          parser.pause();
          setImmediate(() => parser.resume());
        },
        complete: () => {
          if (header === null) reject(new CodedError('import-empty'));
          else if (rows === 0) reject(new CodedError('import-header-only'));
          else resolve({ header, delimiter, rows });
        },
        error: reject
      });
    });
  }

  async #check(
    job: ImportJob,
    choices: ImportChoices,
    review: ImportReview,
    { token, personId }: { token: string; personId: number }
  ): Promise<void> {
    const reader = this.#reader(choices);
    const likeness = new Likeness(this.#stores, personId);
    const names = new NamesSeen(choices);
    const projects = new Set<string>();
    let done = 0;
    for (const { line, cells } of this.#rows(job)) {
      if (++done % ROWS_PER_SLICE === 0) {
        this.#progress.set(token, { phase: 'checking', done, total: review.rows });
        await new Promise((resolve) => setImmediate(resolve));
      }
      names.see(cells);
      const result = reader.read(cells);
      if ('problems' in result) this.#faulty(review, line, cells, result.problems, choices);
      else this.#sound(review, line, result.task, likeness.origin(result.task), choices, projects);
    }
    this.#progress.delete(token);
    review.newProjects = [...projects].slice(0, 50);
    review.names = names.shown(reader.names).slice(0, SHOWN_NAMES);
  }

  #faulty(
    review: ImportReview,
    line: number,
    cells: string[],
    problems: readonly RowProblem[],
    { mapping }: ImportChoices
  ): void {
    review.problemCount++;
    if (review.problems.length >= SHOWN_PROBLEMS) return;
    const faults = problems.map(({ column, reason }) => ({ column, reason, index: mapping[column] ?? -1 }));
    review.problems.push({ line, cells, faults });
  }

  #sound(
    review: ImportReview,
    line: number,
    task: RowTask,
    origin: Origin,
    { known }: ImportChoices,
    projects: Set<string>
  ): void {
    const fate = fateOf(origin, known);
    if (origin.by === 'likeness' || origin.by === 'row') {
      review.known.count++;
      if (review.known.first.length < SHOWN_KNOWN)
        review.known.first.push({ line, name: task.name, taskId: origin.taskId });
    }
    if (fate === 'left out') return;
    review.good++;
    review[fate]++;
    if (task.newProject) projects.add(task.newProject);
    if (review.preview.length < PREVIEW_ROWS) review.preview.push({ line, task });
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

  async #dateOrder(
    job: ImportJob,
    { mapping }: JobSettings
  ): Promise<{ order: DateOrder | null; ambiguous: string | null }> {
    const columns = [mapping.due, mapping.start].filter((index) => index !== undefined);
    let order: DateOrder | null = null;
    let ambiguous: string | null = null;
    for (const index of columns) {
      const texts = Array.from(this.#rows(job), ({ cells }) => cells[index] ?? '');
      await new Promise((resolve) => setImmediate(resolve));
      const found = findDateOrder(texts);
      if (found === 'undecided') ambiguous ??= ambiguousExample(texts) ?? texts[0]!;
      else if (found !== 'no matter') order ??= found;
    }
    // One column that is clear decides for the other: both come from the same sheet.
    return order ? { order, ambiguous: null } : { order: null, ambiguous };
  }

  *#rows(job: ImportJob): Generator<{ line: number; cells: string[] }> {
    let after = 0;
    for (;;) {
      const page = this.#stores.imports.rows(job.id, after, ROWS_PER_SLICE);
      yield* page;
      if (page.length < ROWS_PER_SLICE) return;
      after = page[page.length - 1]!.line;
    }
  }

  #reader(choices: ImportChoices): RowReader {
    const { people, projects } = this.#stores;
    return new RowReader(choices, {
      people: people.all().filter(({ active }) => active),
      projects: projects.all(),
      statuses: projects.statuses()
    });
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

/** What becomes of a row. */
function fateOf({ by }: Origin, known: ImportChoices['known']): 'created' | 'updated' | 'left out' {
  if (by === null) return 'created';
  if (by === 'key') return 'updated';
  if (known === 'add again') return 'created';
  // One that stands in the file twice has nothing yet that it could update.
  return known === 'update' && by === 'likeness' ? 'updated' : 'left out';
}

/** A name for an upload that nobody guesses. */
export function newImportToken(): string {
  return randomBytes(18).toString('base64url');
}

/** Cells that were written defused, so that no spreadsheet runs them, are read back as they were. */
function undefuse(cell: string): string {
  return /^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell;
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
