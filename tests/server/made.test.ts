import { expect, it } from 'vitest';
import { MadeStore } from '../../src/lib/server/store/made.ts';
import { eachInAWorkspace, edit, workspace } from '../support/rules.ts';
import { SET_UP, taskInput } from '../support/workspace.ts';

/** What a change made of tasks goes again together, without being read row by row. */
eachInAWorkspace();

const ODD = 'a "quoted" \\ name, \u0001 é 🌊 \n of two lines / 1.0';

/** Tasks of Ines, tagged, in a project that is made with them. */
function make(names: readonly string[]) {
  const { container, people } = workspace;
  const { changeId, result } = container.committer.commit(SET_UP, 'made', (writer) => {
    const projectId = writer.insert('project', { name: 'New moorings' });
    return names.map((name) =>
      container.tasks.insert(
        writer,
        taskInput({ name, ownerId: people.Ines!, projectId, tags: ['a', 'b'], percent: 40 })
      )
    );
  });
  return { changeId, ids: result };
}

/** Takes a change back as far as it goes together, looks, and leaves everything as it was. */
function together(changeId: number) {
  const { work, stores, db } = workspace.container;
  return work.tryOut(() => {
    const writer = stores.changes.begin({ at: 0, actorId: null, source: 'undo', title: 'tried' });
    const left = new MadeStore(db).revert([changeId], writer);
    const rows = stores.changes.rowsOf(changeId);
    return {
      left: left.get(changeId)!.length,
      rows: rows.length,
      undone: stores.changes.rowsOf(writer.id),
      of: rows
    };
  });
}

it('all that stands as it was made goes, however it is called, each row with its record', () => {
  const { changeId } = make([ODD, 'Plain']);
  const { left, undone, of } = together(changeId);
  // The project is looked at by itself.
  expect(left).toBe(1);
  const made = of.filter(({ table }) => table !== 'project');
  const reversed = made.map(({ after, before, ...row }) => ({ ...row, before: after, after: before }));
  const inOrder = (rows: typeof of) => rows.map((row) => JSON.stringify(row)).sort();
  expect(inOrder(undone)).toEqual(inOrder(reversed));
});

it('of a task that was written since nothing goes, nor what belongs to it', () => {
  const { changeId, ids } = make(['First', 'Second']);
  const { left } = together(changeId);
  edit(ids[0]!, { description: 'since' });
  // The task itself, its two tags and how long it has been in its status.
  expect(together(changeId).left).toBe(left + 4);
});
