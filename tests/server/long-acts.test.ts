import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { CommittedChange } from '../../src/lib/server/workspace/commit.ts';
import { FINISHED, on, rule, tell } from '../support/rules.ts';
import { standing } from '../support/standing.ts';
import { openThreaded, type Threaded } from '../support/threaded.ts';
import {
  lead,
  openWorkspace,
  ruleOf,
  ruleOn,
  SET_UP,
  taskInput,
  tasksOf,
  type TestWorkspace
} from '../support/workspace.ts';

/** Acts on very many tasks are done in a thread, over the workspace itself. It is Thursday 5 March 2026, 07:00Z; Ines coordinates. */
const MANY = 450;
let threaded: Threaded;
let inThread: TestWorkspace;
let onTheSpot: TestWorkspace;

beforeEach(async () => {
  threaded = await openThreaded();
  inThread = threaded.workspace;
  onTheSpot = await openWorkspace('2026-03-05T07:00:00Z');
});
afterEach(async () => {
  await Promise.all([threaded.close(), onTheSpot.close()]);
});

/** Tasks of Ines, tagged. @returns the change that made them, and their ids */
function addMany({ container, people }: TestWorkspace, many = MANY) {
  const { changeId, result } = container.committer.commit(SET_UP, 'many tasks', (writer) =>
    Array.from({ length: many }, (_, i) => {
      const dueDate = `2026-03-${String((i % 20) + 10)}`;
      return container.tasks.insert(
        writer,
        taskInput({ name: `Task ${i}`, ownerId: people.Ines!, dueDate, tags: ['a', `b${i % 3}`] })
      );
    })
  );
  return { changeId, ids: result };
}

const finishing = (ids: number[]) => ({
  act: 'many tasks' as const,
  input: { ids, query: '', change: { act: 'status' as const, id: FINISHED } }
});

describe('an act on very many tasks', () => {
  it('is what it would be on the spot, and so is taking it back: tasks, plans, runs, notices, record', async () => {
    const acts = new Map<TestWorkspace, { changeId: number; made: number }>();
    for (const one of [inThread, onTheSpot]) {
      const { container, people } = one;
      ruleOn(one, ruleOf([lead(-2, 'day')]), 'Ahead');
      const listening = rule([on('finished', { wide: true })], [tell('all', { noticeKind: 'assigned' })]);
      ruleOn(one, listening, 'Done');
      const made = addMany(one);
      await container.engine.tick();
      const { result, changeId } = await container.longActs.do(people.Ines!, finishing(made.ids));
      expect(result).toEqual({ changed: MANY, left: [] });
      await container.engine.tick();
      acts.set(one, { changeId, made: made.changeId });
    }
    expect(standing(inThread)).toEqual(standing(onTheSpot));
    expect(standing(inThread).runs).toEqual([['ended', null, MANY]]);
    for (const undone of ['changeId', 'made'] as const) {
      for (const [{ container, people }, made] of acts) {
        await container.longActs.do(people.Ines!, { act: 'undo', changeId: made[undone] });
        await container.engine.tick();
      }
      expect(standing(inThread)).toEqual(standing(onTheSpot));
    }
    expect(standing(inThread).tasks).toEqual([]);
    expect(inThread.container.db.pragma('foreign_key_check')).toEqual([]);
  });

  it('shows itself as a whole, to whoever reads meanwhile and to whoever listens; whoever writes comes after it', async () => {
    const { container, people, coordinator } = inThread;
    const { ids } = addMany(inThread);
    const heard: CommittedChange[] = [];
    container.committer.listen((change) => void heard.push(change));
    const seen = new Set<number>();
    const act = container.longActs.do(people.Ines!, finishing(ids));
    const isOpen = { phases: ['waiting to start'] as const };
    let busy = true;
    const reading = (async () => {
      while (busy) {
        await new Promise((next) => setTimeout(next, 2));
        seen.add(tasksOf(inThread, MANY, { phases: [...isOpen.phases] }).length);
      }
    })();
    while (!container.work.isLent) await new Promise((next) => setTimeout(next, 1));
    await container.work.returned();
    container.tasks.add(coordinator, taskInput({ name: 'Afterwards' }));
    const { changeId } = await act;
    busy = false;
    await reading;
    expect([...seen].filter((count) => ![MANY, 0, 1].includes(count))).toEqual([]);
    expect(heard.map((change) => [change.changeId, change.taskIds.size])).toEqual([
      [changeId, MANY],
      [changeId + 1, 1]
    ]);
    expect(container.source.facts && container.stores.tasks.factsOf(ids[0]!)!.phase).toBe('finished');
  });

  it('that may not be done, or would do something else than was said, is refused and changes nothing', async () => {
    const { container, people, coordinator } = inThread;
    const { ids, changeId } = addMany(inThread);
    const { longActs, tryOuts } = container;
    await expect(longActs.do(people.Nora!, { act: 'undo', changeId })).rejects.toMatchObject({
      code: 'undo-not-yours'
    });
    ruleOn(inThread, ruleOf([lead(-2, 'day')]), 'Ahead');
    await container.engine.tick();
    const said = (await tryOuts.look(people.Ines!, finishing(ids))) as { effect: { stamp: string } };
    container.tasks.edit(coordinator, ids[0]!, { dueDate: '2026-04-20' });
    await expect(longActs.do(people.Ines!, finishing(ids), said.effect.stamp)).rejects.toMatchObject({
      code: 'preview-stale'
    });
    expect(standing(inThread).tasks.every(({ phase }) => phase === 'waiting to start')).toBe(true);
    expect(container.work.isLent).toBe(false);
  });

  it('whose thread is lost says that it is not known whether it was done, and lends the workspace to nobody any more', async () => {
    const broken = await openThreaded('/nothing-there.js');
    const { container, people, coordinator } = broken.workspace;
    const { ids } = addMany(broken.workspace);
    await expect(container.longActs.do(people.Ines!, finishing(ids))).rejects.toMatchObject({
      code: 'act-lost'
    });
    expect(container.work.isLent).toBe(false);
    expect(container.stores.tasks.factsOf(ids[0]!)!.phase).toBe('waiting to start');
    container.tasks.add(coordinator, taskInput({ name: 'Afterwards' }));
    await broken.close();
  });
});
