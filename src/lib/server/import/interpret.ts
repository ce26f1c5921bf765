import { CodedError } from '../../core/errors.ts';
import type { ReminderTiming } from '../../core/forecast/reminders.ts';
import { readReminderCell } from './reminders.ts';
import { PRIORITIES, type Priority } from '../../core/rule/model.ts';
import { nearest } from '../../core/nearest.ts';
import { LONGEST_NAME, type TaskInput } from '../schema/task.ts';
import type { Person } from '../store/people.ts';
import type { Project, Status } from '../store/projects.ts';
import { COLUMNS, type ColumnName, type Mapping } from './columns.ts';
import { readDateCell, readTimeCell, type DateOrder } from './dates.ts';

/** What the person chose for a file. */
export interface ImportChoices {
  mapping: Mapping;
  dateOrder: DateOrder | null;
  /** What happens to a row whose owner is not among the people. */
  unknownOwners: 'skip' | 'unowned';
}

export interface ImportContext {
  people: readonly Person[];
  projects: readonly Project[];
  statuses: readonly Status[];
}

/** A row as it will be imported. A project that is not there yet is named instead of numbered. */
export interface RowTask extends TaskInput {
  newProject: string | null;
  key: string | null;
  /** A reminder for whoever owns it; undefined where the file says nothing. */
  reminder?: ReminderTiming;
}

export type RowResult = { task: RowTask } | { problem: string; column: ColumnName; unknownOwner?: string };

/** Reads rows of one file into tasks, looking names up once. */
export class RowReader {
  readonly #choices: ImportChoices;
  readonly #people = new Map<string, Person>();
  readonly #projects: ReadonlyMap<string, Project>;
  readonly #statuses: readonly Status[];
  readonly #names: string[];

  constructor(choices: ImportChoices, { people, projects, statuses }: ImportContext) {
    this.#choices = choices;
    for (const person of people) {
      this.#people.set(fold(person.name), person);
      if (person.email) this.#people.set(fold(person.email), person);
    }
    this.#names = people.flatMap(({ name, email }) => (email ? [name, email] : [name]));
    this.#projects = new Map(projects.map((project) => [fold(project.name), project]));
    this.#statuses = statuses;
  }

  read(cells: readonly string[]): RowResult {
    const cell = (column: ColumnName) => (cells[this.#choices.mapping[column] ?? -1] ?? '').trim();
    const name = cell('name');
    if (name === '') return { problem: 'There is no task name.', column: 'name' };
    if (name.length > LONGEST_NAME)
      return { problem: `The task name is longer than ${LONGEST_NAME} characters.`, column: 'name' };
    const owner = this.#owner(cell('owner'));
    if (owner === undefined && this.#choices.unknownOwners === 'skip')
      return this.#unknownOwner(cell('owner'));
    try {
      const due = this.#moment(cell('due'), cell('dueTime'), 'due');
      const start = this.#moment(cell('start'), cell('startTime'), 'start');
      const project = cell('project');
      const known = this.#projects.get(fold(project));
      return {
        task: {
          name,
          description: cell('description'),
          projectId: known?.id ?? null,
          newProject: project === '' || known ? null : project,
          ownerId: owner?.id ?? null,
          statusId: this.#status(cell('status')),
          priority: this.#priority(cell('priority')),
          dueDate: due.date,
          dueTime: due.time,
          startDate: start.date,
          startTime: start.time,
          private: false,
          ...this.#further(cell),
          key: cell('key') || null
        }
      };
    } catch (error) {
      if (!(error instanceof CodedError)) throw error;
      return { problem: error.message, column: error.field as ColumnName };
    }
  }

  /** What a file may say besides; what it has no column for stays as it is. */
  #further(
    cell: (column: ColumnName) => string
  ): Pick<RowTask, 'tags' | 'remindDate' | 'remindTime' | 'reminder'> {
    const has = (column: ColumnName) => this.#choices.mapping[column] !== undefined;
    const remindOn = this.#moment(cell('remindOn'), '', 'remindOn');
    const reminder = inColumn('reminder', () => readReminderCell(cell('reminder')));
    return {
      ...(has('tags') ? { tags: tagsOf(cell('tags')) } : {}),
      ...(has('remindOn') ? { remindDate: remindOn.date, remindTime: remindOn.time } : {}),
      ...(reminder ? { reminder } : {})
    };
  }

  /** Undefined when nobody has that name or address. */
  #owner(text: string): Person | null | undefined {
    return text === '' ? null : this.#people.get(fold(text));
  }

  #unknownOwner(text: string): RowResult {
    const near = nearest(text, this.#names);
    const hint = near.length > 0 ? ` Did you mean ${near.join(' or ')}?` : '';
    return { problem: `Nobody here is called “${text}”.${hint}`, column: 'owner', unknownOwner: text };
  }

  #moment(
    dateText: string,
    timeText: string,
    column: 'due' | 'start' | 'remindOn'
  ): { date: string | null; time: string | null } {
    if (dateText === '') {
      if (timeText !== '') throw new CodedError('time-without-date', {}, column);
      return { date: null, time: null };
    }
    return inColumn(column, () => {
      const { date, time } = readDateCell(dateText, this.#choices.dateOrder ?? 'day-first');
      return { date, time: timeText === '' ? time : readTimeCell(timeText) };
    });
  }

  #status(text: string): number | null {
    if (text === '') return null;
    const status = this.#statuses.find(
      ({ name, phase }) => fold(name) === fold(text) || fold(phase) === fold(text)
    );
    if (status) return status.id;
    throw offered(
      text,
      'status',
      this.#statuses.map(({ name }) => name)
    );
  }

  #priority(text: string): Priority {
    if (text === '') return 'ordinary';
    const priority = PRIORITIES.find((known) => known === fold(text));
    if (priority) return priority;
    throw offered(text, 'priority', PRIORITIES);
  }
}

function tagsOf(text: string): string[] {
  return text
    .split(/[,;|]/)
    .map((tag) => tag.trim().slice(0, 60))
    .filter(Boolean);
}

function offered(text: string, column: 'status' | 'priority', known: readonly string[]): CodedError {
  const detail = `There is no ${COLUMNS[column].label} “${text}”. There are ${known.join(', ')}`;
  return new CodedError('bad-field', { detail }, column);
}

function inColumn<T>(column: ColumnName, work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw error instanceof CodedError ? error.at(column) : error;
  }
}

function fold(text: string): string {
  return text.trim().toLowerCase();
}
