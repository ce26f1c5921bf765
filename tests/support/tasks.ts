import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import type { EditOptions } from '../../src/lib/server/task/tasks.ts';
import { taskInput, type TestWorkspace } from './workspace.ts';

/** The third status of the test workspace is of the phase “finished”. */
export const FINISHED = 3;

/** What tests of tasks do again and again, in whichever workspace is open. */
export function tasksIn(workspace: () => TestWorkspace) {
  return {
    add: (patch: Partial<TaskInput> = {}) =>
      workspace().container.tasks.add(workspace().coordinator, taskInput(patch)).result,
    edit: (id: number, patch: Partial<TaskInput>, options: EditOptions = {}) =>
      workspace().container.tasks.edit(workspace().coordinator, id, patch, options),
    task: (id: number) => workspace().container.stores.tasks.byId(id)!,
    moveTo: (at: string) => workspace().container.engine.moveClock(Date.parse(at)),
    tick: () => workspace().container.engine.tick(),
    /** Everything of a task, as its rows say. */
    rows: (id: number) => ({
      task: workspace().container.db.prepare('SELECT * FROM task WHERE id = ?').get(id),
      rounds: workspace().container.stores.taskParts.rounds(id),
      slips: workspace().container.stores.taskParts.slips(id)
    }),
    /** The coordinator, who looks at it all. */
    viewer: () => ({
      zone: workspace().container.source.facts.workspace.zone,
      personId: workspace().people.Ines!
    })
  };
}
