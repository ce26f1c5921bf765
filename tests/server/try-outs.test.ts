import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openDatabase } from '../../src/lib/server/db/open.ts';
import { lookAt } from '../../src/lib/server/tryout/looks.ts';
import type { Asked } from '../../src/lib/server/tryout/asked.ts';
import type { EffectView } from '../../src/lib/view/effects.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from '../support/workspace.ts';

/** An act on many tasks is looked at in a thread, over a copy of the workspace. It is Thursday 5 March 2026, 07:00Z; Ines coordinates. */
const MANY = 200;
let folder: string;
let workspace: TestWorkspace;
let ids: number[];

async function opened(threadFile: string): Promise<void> {
  const db = openDatabase(join(folder, 'early-bell.sqlite'));
  workspace = await openWorkspace('2026-03-05T07:00:00Z', { db, threadFile });
  const { container, coordinator, people } = workspace;
  ruleOn(workspace, ruleOf([lead(-2, 'day')]), 'Ahead');
  ids = container.work.run(() =>
    Array.from({ length: MANY }, (_, i) => {
      const input = taskInput({ name: `Task ${i}`, ownerId: people.Ines!, dueDate: '2026-03-12' });
      return container.tasks.add(coordinator, input).result;
    })
  );
  await container.engine.tick();
}
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'early-bell-try-'));
});
afterEach(async () => {
  await workspace.close();
  rmSync(folder, { recursive: true, force: true });
});

const built = resolve('build', 'parts', 'thread.js');
const toMeera = (chosen = ids): Asked => ({
  act: 'many tasks',
  input: { ids: chosen, query: '', change: { act: 'owner', id: workspace.people.Meera! } }
});
type Said = { changes: number; effect: EffectView };
const look = (asked: Asked, onPart?: (part: number) => void, signal?: AbortSignal) =>
  workspace.container.tryOuts.look(workspace.people.Ines!, asked, onPart, signal) as Promise<Said>;

describe('in a thread', () => {
  beforeEach(() => opened(built));

  it('says what a look on the spot says, and how far it has come', async () => {
    const parts: number[] = [];
    const said = await look(toMeera(), (part) => parts.push(part));
    expect(said.changes).toBe(MANY);
    expect(said.effect.counts.added).toBe(MANY);
    expect(parts.length).toBeGreaterThan(3);
    expect(parts).toEqual([...parts].sort((a, b) => a - b));
    const { container, people } = workspace;
    expect(said).toEqual(lookAt(container, people.Ines!, toMeera()));
  });

  it('holds nobody: others read and write meanwhile, and what they write is not lost', async () => {
    const { container, coordinator } = workspace;
    let turns = 0;
    let busy = true;
    const others = (async () => {
      while (busy) {
        await new Promise((next) => setImmediate(next));
        if (turns++ < 20) container.tasks.add(coordinator, taskInput({ name: `Meanwhile ${turns}` }));
      }
    })();
    await look(toMeera());
    busy = false;
    await others;
    expect(turns).toBeGreaterThan(20);
    expect(container.stores.tasks.count()).toBe(MANY + 20);
    expect(container.stores.tasks.byId(ids[0]!)!.ownerId).toBe(workspace.people.Ines);
  });

  it('more at once than there are threads: everybody is answered', async () => {
    const all = await Promise.all([1, 2, 3, 4].map(() => look(toMeera())));
    expect(all.map(({ changes }) => changes)).toEqual([MANY, MANY, MANY, MANY]);
  });

  it('is looked at again before it is done, where something has happened since', async () => {
    const { container, coordinator, people } = workspace;
    const { stamp } = (await look(toMeera())).effect;
    const again = () => container.tryOuts.lookAgain(people.Ines!, toMeera(), stamp);
    expect(await again()).toBe(stamp);
    container.tasks.add(coordinator, taskInput({ name: 'Something else' }));
    const fresh = await again();
    expect(fresh).not.toBe(stamp);
    expect(container.effects.isFresh(fresh!)).toBe(true);
    container.tasks.edit(coordinator, ids[0]!, { dueDate: '2026-03-19' });
    await expect(again()).rejects.toMatchObject({ code: 'preview-stale' });
  });

  it('refuses in the same words', async () => {
    const { container, coordinator, people } = workspace;
    const { changeId } = container.bulk.apply(
      coordinator,
      { ids, query: '', change: { act: 'priority', priority: 'high' } },
      { zone: container.source.facts.workspace.zone, personId: people.Ines! },
      { personId: people.Ines!, all: true, reports: [] }
    );
    container.committer.undo(changeId, people.Ines!);
    await expect(look({ act: 'undo', changeId })).rejects.toMatchObject({ code: 'undo-done' });
  });

  it('given up half-way: the next is answered all the same', async () => {
    const leaves = new AbortController();
    const left = look(toMeera(), () => leaves.abort(), leaves.signal);
    await expect(left).rejects.toMatchObject({ code: 'preview-failed' });
    expect((await look(toMeera())).changes).toBe(MANY);
  });

  it('a few are looked at on the spot', async () => {
    const parts: number[] = [];
    expect((await look(toMeera(ids.slice(0, 5)), (part) => parts.push(part))).changes).toBe(5);
    expect(parts).toEqual([]);
  });
});

it('a thread that cannot begin is said, and loses nothing', async () => {
  await opened(join(folder, 'nothing-there.js'));
  await expect(look(toMeera())).rejects.toMatchObject({ code: 'preview-failed' });
  await expect(look(toMeera())).rejects.toMatchObject({ code: 'preview-failed' });
});
