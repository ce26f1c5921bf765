import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LATER, type LaterName } from '../../src/lib/server/workspace/later.ts';
import { startersOf } from '../../src/lib/server/rule/rule-starters.ts';
import { signedInAs } from '../../src/lib/server/workspace/signed-in.ts';
import { Forgotten } from '../../src/lib/server/threads/forgotten.ts';
import { openThreaded, type Threaded } from '../support/threaded.ts';
import { lead, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

/** What comes after its page is worked out in a thread that reads the workspace. It is Thursday 5 March 2026, 07:00Z; Ines coordinates. */
let threaded: Threaded;
let workspace: TestWorkspace;
let taskId: number;
let ruleId: number;

beforeEach(async () => {
  threaded = await openThreaded();
  workspace = threaded.workspace;
  ruleId = ruleOn(workspace, ruleOf([lead(-2, 'day')]), 'Ahead');
  taskId = add('2026-03-09');
  await workspace.container.engine.tick();
});
afterEach(() => threaded.close());

function add(dueDate: string): number {
  const { container, coordinator, people } = workspace;
  const input = taskInput({ name: `Due ${dueDate}`, ownerId: people.Nora!, dueDate });
  return container.tasks.add(coordinator, input).result;
}

function argsOf(name: LaterName): unknown {
  const { container, people } = workspace;
  const { name: called, description, group } = container.stores.rules.byId(ruleId)!;
  const { definition } = container.rules.open(ruleId)!.edited;
  const from = container.clock.now();
  const written = { ruleId, input: { name: called, description, group, definition } };
  const args: Partial<Record<LaterName, unknown>> = {
    'rule outlook': written,
    'rule check': written,
    'rule beside': written,
    'rule words': { ...written, taskId: null },
    'tasks to try': written,
    starter: { key: startersOf(container)[0]!.key },
    change: { id: container.stores.changes.lastId() },
    escalations: { ruleId: null, ownerId: null, only: null, page: 1 },
    'person bells': { id: people.Nora, all: false },
    'desk bells': { id: people.Nora },
    'first bells': { from, until: from + 3 * 86_400_000 }
  };
  return args[name] ?? null;
}

const inThread = (name: LaterName) =>
  workspace.container.later.view(name, workspace.people.Ines!, argsOf(name) as never) as Promise<unknown>;
const onTheSpot = (name: LaterName) => {
  const { container, people } = workspace;
  const who = signedInAs(container.stores.people.byId(people.Ines!)!, container.stores);
  return LATER[name](container, who, argsOf(name) as never);
};

describe('in a thread', () => {
  it('every view says what it would say on the spot, and again after each kind of change', async () => {
    const { container, coordinator, people } = workspace;
    const changes: (() => unknown)[] = [
      () => {},
      () => add('2026-03-10'),
      () => container.tasks.edit(coordinator, taskId, { dueDate: '2026-03-16' }),
      () =>
        container.people.setQuiet(coordinator, people.Nora!, {
          quiet: [],
          dailyCap: 1,
          digestDue: null,
          digestOverdue: null
        }),
      () => ruleOn(workspace, ruleOf([lead(-1, 'day')]), 'The day before'),
      () => container.rules.turnOff(coordinator, ruleId),
      () => container.clock.set(container.clock.now() + 86_400_000, false)
    ];
    for (const change of changes) {
      change();
      await container.engine.tick();
      for (const name of Object.keys(LATER) as LaterName[])
        expect(await inThread(name), name).toEqual(onTheSpot(name));
    }
  });

  it('sees what was changed while it was asked', async () => {
    const views = Promise.all(Array.from({ length: 5 }, () => inThread('people bells')));
    add('2026-03-08');
    await views;
    await workspace.container.engine.tick();
    expect(await inThread('people bells')).toEqual(onTheSpot('people bells'));
  });

  it('is worked out once for all who ask before it has begun', async () => {
    const { container } = workspace;
    const asked = vi.spyOn(container.readers, 'ask');
    const views = await Promise.all(Array.from({ length: 12 }, () => inThread('people bells')));
    expect(new Set(views.map((view) => JSON.stringify(view))).size).toBe(1);
    expect(asked.mock.calls.length).toBeLessThan(4);
  });

  it('says what it says to whoever is there', async () => {
    await expect(workspace.container.later.view('people bells', 999, null)).rejects.toMatchObject({
      code: 'person-gone'
    });
  });
});

describe('what is forgotten', () => {
  it('is named task by task, and beyond that as everything', () => {
    const forgotten = new Forgotten();
    forgotten.forgot([1, 2]);
    forgotten.invalidated(false);
    forgotten.forgotDigests();
    expect(forgotten.take()).toEqual({ compiled: 'yes', taskIds: [1, 2], digests: true });
    forgotten.forgot(Array.from({ length: 6_000 }, (_, i) => i));
    forgotten.invalidated(false);
    expect(forgotten.take()).toEqual({ compiled: 'with tasks', taskIds: [], digests: false });
    expect(forgotten.take()).toEqual({ compiled: 'no', taskIds: [], digests: false });
  });
});
