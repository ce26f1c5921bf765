import type { ImportJob } from '../../store/imports.ts';
import type { Stores } from '../../store/all.ts';
import type { ColumnName } from './columns.ts';
import { ambiguousExample, findDateOrder, type DateOrder } from './dates.ts';
import type { Encoding } from './decode.ts';
import { RowReader, type ImportChoices, type RowProblem, type RowTask } from './interpret.ts';
import { Likeness, type Origin } from './likeness.ts';
import type { Match, NamedColumn } from './names.ts';
import { NamesSeen, type SeenName } from './names-seen.ts';
import type { TableRow } from './table.ts';

const ROWS_AT_ONCE = 500;
const PREVIEW_ROWS = 8;
const SHOWN_PROBLEMS = 200;
/** Names that are shown to be matched by hand. */
const SHOWN_NAMES = 60;
const SHOWN_KNOWN = 8;
const SHOWN_PROJECTS = 50;

/** What was found in a file, and what was chosen for it. */
export interface JobSettings extends ImportChoices {
  header: string[];
  delimiter: string;
  encoding: Encoding;
  rows: number;
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
  names: SeenName[];
  /** What they can be matched with. */
  nameChoices: Record<NamedColumn, readonly Match[]>;
  newProjects: string[];
  /** A date that can be read two ways, when nothing in the column decides which and nobody has chosen. */
  ambiguousDate: string | null;
  /** Columns that must be chosen before anything can be imported. */
  missing: ColumnName[];
}

/** An upload that is looked at, for whom, and what was chosen for it by now. */
export interface Reviewed {
  job: Pick<ImportJob, 'id' | 'fileName'>;
  settings: JobSettings;
  personId: number;
}

/** Called between two parts of a review, with how many rows are done. */
export type OnRows = (done: number) => Promise<void> | void;

/** What an upload would become, with the choices made so far. It changes nothing. */
export async function reviewUpload(
  stores: Stores,
  { job, settings, personId }: Reviewed,
  onRows: OnRows
): Promise<ImportReview> {
  const dates = await dateOrderOf(stores, job.id, settings, onRows);
  const choices = { ...settings, dateOrder: settings.dateOrder ?? dates.order };
  const reader = rowReader(stores, choices);
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
    nameChoices: reader.names.choices,
    newProjects: [],
    ambiguousDate: settings.dateOrder === null ? dates.ambiguous : null,
    missing: settings.mapping.name === undefined ? ['name'] : []
  };
  if (review.missing.length > 0) return review;
  const likeness = new Likeness(stores, personId);
  const names = new NamesSeen(choices);
  const projects = new Set<string>();
  let done = 0;
  for (const { line, cells } of rowsOf(stores, job.id)) {
    if (++done % ROWS_AT_ONCE === 0) await onRows(done);
    names.see(cells);
    const result = reader.read(cells, review.problems.length < SHOWN_PROBLEMS);
    if ('problems' in result) faulty(review, line, cells, result.problems, choices);
    else sound(review, line, result.task, likeness.origin(result.task), choices, projects);
  }
  review.newProjects = [...projects].slice(0, SHOWN_PROJECTS);
  review.names = names.shown(reader.names, SHOWN_NAMES);
  return review;
}

/** The rows of an upload, in the order of its file. */
export function* rowsOf(stores: Stores, jobId: number): Generator<TableRow> {
  let after = 0;
  for (;;) {
    const page = stores.imports.rows(jobId, after, ROWS_AT_ONCE);
    yield* page;
    if (page.length < ROWS_AT_ONCE) return;
    after = page[page.length - 1]!.line;
  }
}

/** Reads rows by what was chosen for their file. */
export function rowReader({ people, projects }: Stores, choices: ImportChoices): RowReader {
  return new RowReader(choices, {
    people: people.all().filter(({ active }) => active),
    projects: projects.all(),
    statuses: projects.statuses()
  });
}

/** What becomes of a row. */
export function fateOf({ by }: Origin, known: ImportChoices['known']): 'created' | 'updated' | 'left out' {
  if (by === null) return 'created';
  if (by === 'key') return 'updated';
  if (known === 'add again') return 'created';
  // One that stands in the file twice has nothing yet that it could update.
  return known === 'update' && by === 'likeness' ? 'updated' : 'left out';
}

function faulty(
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

function sound(
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

async function dateOrderOf(
  stores: Stores,
  jobId: number,
  { mapping }: JobSettings,
  onRows: OnRows
): Promise<{ order: DateOrder | null; ambiguous: string | null }> {
  const columns = [mapping.due, mapping.start].filter((index) => index !== undefined);
  let order: DateOrder | null = null;
  let ambiguous: string | null = null;
  for (const index of columns) {
    const texts: string[] = [];
    for (const { cells } of rowsOf(stores, jobId)) {
      texts.push(cells[index] ?? '');
      if (texts.length % ROWS_AT_ONCE === 0) await onRows(0);
    }
    const found = findDateOrder(texts);
    if (found === 'undecided') ambiguous ??= ambiguousExample(texts) ?? texts[0]!;
    else if (found !== 'no matter') order ??= found;
  }
  // One column that is clear decides for the other: both come from the same sheet.
  return order ? { order, ambiguous: null } : { order: null, ambiguous };
}
