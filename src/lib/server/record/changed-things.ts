import type { ChangedThing } from '../../view/changed-things.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Row } from '../db/row.ts';
import type { RecordedTable } from '../store/recorded-tables.ts';
import type { ChangeRow } from '../store/change-model.ts';
import { PARTS, RowWords, saysAnything } from './row-words.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Things that are listed of one change; the rest are counted. */
export const LISTED_THINGS = 100;

/** What a row is called that belongs to no task; tables that are not here only go with others. */
const THINGS: Partial<Record<RecordedTable, (row: Row) => string>> = {
  project: ({ name }) => `project “${String(name)}”`,
  section: ({ name }) => `section “${String(name)}”`,
  person: ({ name }) => String(name),
  rule: ({ name }) => `rule “${String(name)}”`,
  digest: ({ name }) => `digest “${String(name)}”`,
  sweep: ({ name }) => `sweep “${String(name)}”`,
  calendar: ({ name }) => `calendar “${String(name)}”`,
  calendar_day: ({ date, name }) => `the day ${String(date)}${name ? `, ${String(name)}` : ''}`,
  status: ({ name }) => `status “${String(name)}”`,
  field: ({ name }) => `field “${String(name)}”`,
  saved_list: ({ name }) => `list “${String(name)}”`,
  contact: ({ name }) => String(name)
};

/** Tables of whose rows anything is said. */
export const SAID_TABLES = ['task', ...PARTS, ...Object.keys(THINGS)] as RecordedTable[];

/** Names of tasks as a viewer may read them. */
export function taskNames(
  { stores }: Pick<Workspace, 'stores'>,
  { personId }: Viewer
): (id: number) => string {
  return (id) => {
    const task = stores.tasks.byId(id);
    if (!task) return 'a removed task';
    return task.private && task.ownerId !== personId ? 'a private task' : task.name;
  };
}

/** What a task was called that is no longer there, from a row that is kept of it. */
function nameOfGone({ before, after }: ChangeRow, { personId }: Viewer): string {
  const row = { ...before, ...after };
  if (row.private === 1 && row.owner_id !== personId) return 'a private task';
  return String(row.name ?? 'a removed task');
}

/**
 * What rows say of tasks and other things, each thing once, tasks by name first.
 * @param rows in order; there may be very many of them
 */
export function thingsOf(
  app: Pick<Workspace, 'stores' | 'source' | 'clock'>,
  rows: Iterable<ChangeRow>,
  viewer: Viewer
): { things: ChangedThing[]; more: number } {
  const names = taskNames(app, viewer);
  const words = new RowWords(app, viewer.zone.dayOf(app.clock.now()), names);
  const things = new Map<string, ChangedThing>();
  const further = new Set<string>();
  // Of very many the first are put into words, and the others counted.
  const add = (key: string, make: () => ChangedThing, fill: (thing: ChangedThing) => void) => {
    const known = things.get(key);
    if (known) return fill(known);
    if (things.size >= LISTED_THINGS) return void further.add(key);
    const made = make();
    things.set(key, made);
    fill(made);
  };
  const ofTask = (row: ChangeRow, taskId: number) => {
    const { table, before, after } = row;
    if (!saysAnything(row)) return;
    const make = () => {
      const stands = app.stores.tasks.byId(taskId) !== null;
      const name = stands ? names(taskId) : nameOfGone(row, viewer);
      return { taskId: stands ? taskId : null, as: null, name, values: [] };
    };
    add(`task ${taskId}`, make, (thing) => {
      if (table === 'task' && !(before && after)) thing.as ??= before ? 'removed' : 'added';
      if (thing.name === 'a private task') return;
      if (table !== 'task') thing.values.push(...words.ofPart(row));
      else if (before && after) thing.values.push(...words.ofTask(before, after));
    });
  };
  const ofOther = ({ table, rowId, before, after }: ChangeRow) => {
    const name = THINGS[table]?.((after ?? before)!);
    if (name === undefined) return;
    const make = () => ({ taskId: null, name, as: null, values: [] });
    add(`${table} ${rowId}`, make, (thing) => {
      if (!before || !after) thing.as ??= before ? 'removed' : 'added';
      else if (before.state !== after.state)
        thing.values.push({ field: 'state', before: String(before.state), after: String(after.state) });
      else thing.as ??= 'changed';
    });
  };
  const others: ChangeRow[] = [];
  for (const row of rows) {
    const taskId = taskOf(row);
    if (taskId > 0) ofTask(row, taskId);
    else others.push(row);
  }
  others.forEach(ofOther);
  return { things: [...things.values()], more: further.size };
}

/** The task that a row is of, or hangs on; 0 for any other. */
function taskOf({ table, rowId, before, after }: ChangeRow): number {
  return table === 'task' ? rowId : Number((after ?? before)!.task_id ?? 0);
}
