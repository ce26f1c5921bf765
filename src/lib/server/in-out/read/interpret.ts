import { CodedError } from '../../../core/errors.ts';
import type { ReminderTiming } from '../../../core/forecast/facts/reminders.ts';
import { readReminderCell } from './reminders.ts';
import type { Priority } from '../../../core/task/model.ts';
import { read } from '../../input/fields.ts';
import { taskTextSchema, type TaskInput } from '../../task/schema.ts';
import { COLUMNS, type ColumnName, type Mapping } from './columns.ts';
import { readDateCell, readTimeCell, type DateOrder } from './dates.ts';
import { Names, NONE, type Matches, type NameContext, type NamedColumn } from './names.ts';

/** What the person chose for a file. */
export interface ImportChoices {
  mapping: Mapping;
  dateOrder: DateOrder | null;
  /** What happens to a row whose owner is not among the people. */
  unknownOwners: 'skip' | 'unowned';
  /** What becomes of a row that is here already, without a key that says so. */
  known: 'leave out' | 'update' | 'add again';
  /** Names of the file that were matched by hand. */
  matches: Matches;
}

/** A row as it will be imported. A project that is not there yet is named instead of numbered. */
export interface RowTask extends TaskInput {
  newProject: string | null;
  key: string | null;
  /** A reminder for whoever owns it; undefined where the file says nothing. */
  reminder?: ReminderTiming;
}

/** What is wrong in one cell of a row. */
export interface RowProblem {
  column: ColumnName;
  reason: string;
  /** The name that means nothing here. */
  unknown?: { column: NamedColumn; text: string };
}

export type RowResult = { task: RowTask } | { problems: RowProblem[] };

/** In which column of a file each field of the form stands. */
const COLUMN_OF: Readonly<Record<string, ColumnName>> = {
  name: 'name',
  description: 'description',
  tags: 'tags'
};

/** Reads rows of one file into tasks; every fault of a row is found at once, each with its column. */
export class RowReader {
  readonly names: Names;
  readonly #choices: ImportChoices;

  constructor(choices: ImportChoices, context: NameContext) {
    this.#choices = choices;
    this.names = new Names(context, choices.matches);
  }

  /** @param withHints whether a name that means nothing is followed by what is spelled like it: looking for that takes long */
  read(cells: readonly string[], withHints = true): RowResult {
    const cell = (column: ColumnName) => (cells[this.#choices.mapping[column] ?? -1] ?? '').trim();
    const problems: RowProblem[] = [];
    const texts = this.#texts(cell, problems);
    const named = (column: NamedColumn) => this.#named(column, cell(column), problems, withHints);
    const [project, owner, status, priority] = [
      named('project'),
      named('owner'),
      named('status'),
      named('priority')
    ];
    const due = this.#moment(cell, 'due', 'dueTime', problems);
    const start = this.#moment(cell, 'start', 'startTime', problems);
    const further = this.#further(cell, problems);
    if (problems.length > 0) return { problems };
    return {
      task: {
        ...texts,
        projectId: project.id,
        newProject: project.fresh,
        ownerId: owner.id,
        statusId: status.id,
        priority: (priority.value ?? 'ordinary') as Priority,
        dueDate: due.date,
        dueTime: due.time,
        startDate: start.date,
        startTime: start.time,
        private: false,
        ...further,
        key: cell('key') || null
      }
    };
  }

  /** By the same rules as the form has for them. */
  #texts(
    cell: (column: ColumnName) => string,
    problems: RowProblem[]
  ): Pick<RowTask, 'name' | 'description' | 'tags'> {
    const tags = this.#has('tags') ? { tags: tagsOf(cell('tags')) } : {};
    const given = { name: cell('name'), description: cell('description'), ...tags };
    const result = read(taskTextSchema, given);
    if (result.ok) return { ...given, ...result.value };
    for (const [field, reason] of Object.entries(result.errors)) {
      const column = COLUMN_OF[field.split('.', 1)[0]!]!;
      if (!problems.some((one) => one.column === column))
        problems.push({
          column,
          reason: given.name === '' && column === 'name' ? 'There is no task name.' : reason
        });
    }
    return given;
  }

  /** What a name of the file means; one that means nothing is a problem, but for a project that is new. */
  #named(
    column: NamedColumn,
    text: string,
    problems: RowProblem[],
    withHints: boolean
  ): { id: number | null; value: string | null; fresh: string | null } {
    const nobody = { id: null, value: null, fresh: null };
    if (text === '') return nobody;
    const value = this.names.meaning(column, text);
    if (value === NONE) return nobody;
    if (value !== undefined) return { id: Number(value), value, fresh: null };
    if (column === 'project') return { ...nobody, fresh: text };
    if (column === 'owner' && this.#choices.unknownOwners === 'unowned') return nobody;
    problems.push({ column, reason: this.#unknown(column, text, withHints), unknown: { column, text } });
    return nobody;
  }

  #unknown(column: NamedColumn, text: string, withHints: boolean): string {
    const near = withHints ? this.names.near(column, text).map(({ label }) => label) : [];
    const hint = near.length > 0 ? ` Did you mean ${near.join(' or ')}?` : '';
    if (column === 'owner') return `No person is named “${text}”.${hint}`;
    const all = this.names.choices[column].map(({ label }) => label);
    return `There is no ${COLUMNS[column].label} “${text}”.${hint || ` There are ${all.join(', ')}.`}`;
  }

  /** What a file may say besides; what it has no column for stays as it is. */
  #further(
    cell: (column: ColumnName) => string,
    problems: RowProblem[]
  ): Pick<RowTask, 'remindDate' | 'remindTime' | 'reminder'> {
    const remindOn = this.#moment(cell, 'remindOn', null, problems);
    const reminder = attempt('reminder', problems, () => readReminderCell(cell('reminder')));
    return {
      ...(this.#has('remindOn') ? { remindDate: remindOn.date, remindTime: remindOn.time } : {}),
      ...(reminder ? { reminder } : {})
    };
  }

  #has(column: ColumnName): boolean {
    return this.#choices.mapping[column] !== undefined;
  }

  #moment(
    cell: (column: ColumnName) => string,
    column: 'due' | 'start' | 'remindOn',
    timeColumn: 'dueTime' | 'startTime' | null,
    problems: RowProblem[]
  ): { date: string | null; time: string | null } {
    const dateText = cell(column);
    const timeText = timeColumn === null ? '' : cell(timeColumn);
    const ownTime =
      timeText === '' ? null : (attempt(timeColumn!, problems, () => readTimeCell(timeText)) ?? null);
    if (dateText === '') {
      if (timeText !== '') problems.push({ column, reason: new CodedError('time-without-date').message });
      return { date: null, time: null };
    }
    const read = attempt(column, problems, () =>
      readDateCell(dateText, this.#choices.dateOrder ?? 'day-first')
    );
    return { date: read?.date ?? null, time: ownTime ?? read?.time ?? null };
  }
}

function tagsOf(text: string): string[] {
  return text
    .split(/[,;|]/)
    .map((tag) => tag.trim())
    .filter(Boolean);
}

/** What a cell says; what cannot be read is a problem of its column. */
function attempt<T>(column: ColumnName, problems: RowProblem[], work: () => T): T | undefined {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    problems.push({ column, reason: error.message });
    return undefined;
  }
}
