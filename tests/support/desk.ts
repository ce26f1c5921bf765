import { afterEach, beforeEach } from 'vitest';
import { sightOf } from '../../src/lib/server/auth/sight.ts';
import { deskOf } from '../../src/lib/server/desk/desk-of.ts';
import { deskView, moreDeskRows, type RowsAsked } from '../../src/lib/server/desk/desk-views.ts';
import type { PlaceInput } from '../../src/lib/server/desk/schema.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import type { Actor } from '../../src/lib/server/workspace/commit.ts';
import { signedInAs } from '../../src/lib/server/workspace/signed-in.ts';
import { openWorkspace, taskInput, type TestWorkspace } from './workspace.ts';

/** The workspace of the test under way. */
export let workspace: TestWorkspace;

/** Each test of a file has a workspace of its own: it is Thursday 5 March 2026, 09:00 in Lisbon; Ines coordinates, Salim works Sunday to Thursday. */
export function eachWithDesks(): void {
  beforeEach(async () => {
    workspace = await openWorkspace('2026-03-05T09:00:00Z');
  });
  afterEach(() => workspace.close());
}

export const person = (name: string) => workspace.people[name]!;
export const as = (name: string): Actor => ({ personId: person(name), source: 'person' });
const record = (name: string) => workspace.container.stores.people.byId(person(name))!;
export const signedIn = (name: string) => signedInAs(record(name), workspace.container.stores);
export const sight = (name: string) => sightOf(record(name), workspace.container.stores);
export const task = (id: number) => workspace.container.stores.tasks.byId(id)!;

/** The coordinator gives somebody a task. @returns its id */
export const give = (name: string, input: Partial<TaskInput>) =>
  workspace.container.tasks.add(workspace.coordinator, taskInput({ ownerId: person(name), ...input })).result;

/** Where a task stands on the Desk of somebody; undefined where it does not. */
export const placeOf = (name: string, id: number) =>
  deskOf(workspace.container, person(name)).entries.find(({ row }) => row.id === id)?.place;

export const place = (
  name: string,
  id: number | number[],
  to: PlaceInput['to'],
  rest: Partial<PlaceInput> = {}
) =>
  workspace.container.placing.place(as(name), {
    ...{ taskIds: [id].flat(), to, day: null, newDue: null, keepDue: false, asDue: false },
    ...rest
  });

export const move = (at: string) => workspace.container.engine.moveClock(Date.parse(at));
export const undo = (changeId: number, name: string) =>
  workspace.container.committer.undo(changeId, person(name));

/** The Desk of somebody as they see it, or as another does. */
export const view = (name: string, reader = name) =>
  deskView(workspace.container, { personId: person(name), sight: sight(reader), rhythm: null });
export const rows = (name: string, asked: RowsAsked, from = 0) =>
  moreDeskRows(
    workspace.container,
    { personId: person(name), sight: sight(name), rhythm: null },
    asked,
    from
  );
