import type { ReminderTiming } from '../../core/forecast/reminders.ts';
import type { ImportChoices } from '../import/interpret.ts';
import { Likeness } from '../import/likeness.ts';
import { fold } from '../import/names.ts';
import { fateOf, rowReader, rowsOf } from '../import/review.ts';
import type { ChangeWriter } from '../store/changes.ts';
import type { ImportJob } from '../store/imports.ts';
import type { Stores } from '../store/all.ts';
import type { Actor, Committed, Committer } from './commit.ts';
import type { TaskService } from './tasks.ts';

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
  committer: Committer;
  tasks: TaskService;
}

/**
 * Writes the rows of an upload that can be imported, as one change.
 * @param onRow hears how many are written
 */
export function writeImport(
  writing: Writing,
  actor: Actor,
  written: Written,
  onRow: (count: number) => void = () => {}
): Committed<ImportCounts> {
  return writing.committer.commit({ ...actor, source: 'import' }, titleOf(written), (writer) =>
    writeRows(writing, writer, written, onRow)
  );
}

export function titleOf({ good, job }: Pick<Written, 'good' | 'job'>): string {
  return `${good} tasks imported from ${job.fileName}`;
}

function writeRows(
  { stores, tasks }: Writing,
  writer: ChangeWriter,
  { job, choices }: Written,
  onRow: (count: number) => void
): ImportCounts {
  const counts = { created: 0, updated: 0 };
  const projects = new Map<string, number>();
  const likeness = new Likeness(stores, writer.head.actorId ?? 0);
  const reader = rowReader(stores, choices);
  for (const { cells } of rowsOf(stores, job.id)) {
    const result = reader.read(cells, false);
    if ('problems' in result) continue;
    const origin = likeness.origin(result.task);
    const fate = fateOf(origin, choices.known);
    if (fate === 'left out') continue;
    const { newProject, key, reminder, ...input } = result.task;
    if (newProject) {
      const folded = fold(newProject);
      const id = projects.get(folded) ?? writer.insert('project', { name: newProject });
      projects.set(folded, id);
      input.projectId = id;
    }
    const existing = fate === 'updated' ? (origin.taskId ?? stores.tasks.idByImportKey(key!)) : null;
    const id = existing ?? tasks.insert(writer, input, key);
    if (existing !== null) {
      const task = stores.tasks.byId(existing)!;
      tasks.update(writer, task, { ...input, private: task.private });
    }
    if (reminder) remind(stores, writer, id, reminder);
    counts[fate]++;
    onRow(counts.created + counts.updated);
  }
  return counts;
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
