import type { ReminderTiming } from '../../core/forecast/facts/reminders.ts';
import type { ColumnName, Mapping } from './read/columns.ts';
import type { ImportChoices, RowReader, RowTask } from './read/interpret.ts';
import { Likeness } from './read/likeness.ts';
import { fold } from './read/names.ts';
import { fateOf, rowReader, rowsOf } from './read/review.ts';
import type { TableRow } from './read/table.ts';
import type { TaskInput } from '../task/schema.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { ImportJob } from '../store/imports.ts';
import type { Stores } from '../store/all.ts';
import type { TaskService } from '../task/tasks.ts';

/** What came of an import. */
export interface ImportCounts {
  created: number;
  updated: number;
}

/** An upload as it is written: what was chosen for it, and how many of its rows can be. */
export interface Written {
  job: Pick<ImportJob, 'id' | 'fileName'>;
  choices: ImportChoices;
  good: number;
}

/** What it is written with. */
export interface Writing {
  stores: Stores;
  tasks: TaskService;
}

/** Writes the rows of an upload that can be imported, in the order of its file: all at once or part by part. */
export class ImportWriter {
  readonly head: { source: 'import'; title: string };
  readonly counts: ImportCounts = { created: 0, updated: 0 };
  readonly #writing: Writing;
  readonly #known: ImportChoices['known'];
  readonly #mapping: Mapping;
  readonly #reader: RowReader;
  readonly #likeness: Likeness;
  readonly #rows: Iterator<TableRow>;
  readonly #projects = new Map<string, number>();

  /** @param personId who imports it */
  constructor(writing: Writing, written: Written, personId: number) {
    const { stores } = writing;
    const { job, choices } = written;
    this.#writing = writing;
    this.head = { source: 'import', title: titleOf(written) };
    this.#known = choices.known;
    this.#mapping = choices.mapping;
    this.#reader = rowReader(stores, choices);
    this.#likeness = new Likeness(stores, personId);
    this.#rows = rowsOf(stores, job.id);
  }

  /**
   * @param most rows of the file that are gone through
   * @returns whether it comes to the end of the file before
   */
  write(writer: ChangeWriter, most = Infinity): boolean {
    for (let i = 0; i < most; i++) {
      const next = this.#rows.next();
      if (next.done) return true;
      const result = this.#reader.read(next.value.cells, false);
      if ('task' in result) this.#writeTask(writer, result.task);
    }
    return false;
  }

  #writeTask(writer: ChangeWriter, row: RowTask): void {
    const { stores, tasks } = this.#writing;
    const origin = this.#likeness.origin(row);
    const fate = fateOf(origin, this.#known);
    if (fate === 'left out') return;
    const { newProject, key, reminder, ...input } = row;
    if (newProject) input.projectId = this.#projectOf(writer, newProject);
    const existing = fate === 'updated' ? (origin.taskId ?? stores.tasks.idByImportKey(key!)) : null;
    const id = existing ?? tasks.insert(writer, input, key);
    if (existing !== null) {
      const task = stores.tasks.byId(existing)!;
      tasks.update(writer, task, { ...saidBy(input, this.#mapping), private: task.private });
    }
    if (reminder) remind(stores, writer, id, reminder);
    this.counts[fate]++;
  }

  /** A project that is not there yet is made for the first of its tasks. */
  #projectOf(writer: ChangeWriter, name: string): number {
    const folded = fold(name);
    const id = this.#projects.get(folded) ?? writer.insert('project', { name });
    this.#projects.set(folded, id);
    return id;
  }
}

function titleOf({ good, job }: Written): string {
  return `${good} tasks imported from ${job.fileName}`;
}

/** Which column of a file says what of a task. */
const SAID_BY: Partial<Record<keyof TaskInput, ColumnName>> = {
  description: 'description',
  ownerId: 'owner',
  projectId: 'project',
  statusId: 'status',
  priority: 'priority',
  dueDate: 'due',
  dueTime: 'due',
  startDate: 'start',
  startTime: 'start'
};

/** What a file says of a task that is here: what it has no column for stays as it is. */
function saidBy(input: TaskInput, mapping: Mapping): Partial<TaskInput> {
  const said = Object.entries(input).filter(([field]) => {
    const column = SAID_BY[field as keyof TaskInput];
    return column === undefined || mapping[column] !== undefined;
  });
  return Object.fromEntries(said);
}

/** A reminder for whoever owns the task, once however often the file is read. */
function remind(stores: Stores, writer: ChangeWriter, taskId: number, timing: ReminderTiming): void {
  const text = JSON.stringify(timing);
  const known = stores.taskParts.reminders(taskId);
  if (known.some((one) => one.personId === null && JSON.stringify(one.timing) === text)) return;
  writer.insert('reminder', {
    task_id: taskId,
    person_id: null,
    timing: text,
    set_by: writer.head.actorId
  });
}
