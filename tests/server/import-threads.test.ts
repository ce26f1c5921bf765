import { readdirSync } from 'node:fs';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { on, rule, tell } from '../support/rules.ts';
import { standing } from '../support/standing.ts';
import { openThreaded, type Threaded } from '../support/threaded.ts';
import {
  lead,
  openWorkspace,
  ruleOf,
  ruleOn,
  taskInput,
  tasksOf,
  type TestWorkspace
} from '../support/workspace.ts';

/** Imports of many rows are written into a copy, in a thread, and are there all at once. It is Thursday 5 March 2026, 07:00Z; Ines coordinates. */
const ROWS = 600;
let threaded: Threaded;
let workspace: TestWorkspace;

beforeEach(async () => {
  threaded = await openThreaded();
  workspace = threaded.workspace;
});
afterEach(() => threaded.close());

/** Tasks of Ines in a new project, tagged, some with a reminder. */
function sheet(rows = ROWS, name = (i: number) => `Task ${i}`): string {
  const lines = Array.from(
    { length: rows },
    (_, i) =>
      `K${i},${name(i)},Ines,New moorings,2026-03-${String((i % 20) + 10)},"a, b${i % 3}",${i % 100 === 0 ? '1 day before' : ''}`
  );
  return `Key,Task,Owner,Project,Due,Tags,Reminder\n${lines.join('\n')}\n`;
}

async function upload(csv: string, of = workspace): Promise<string> {
  const body = async function* () {
    yield Buffer.from(csv);
  };
  return of.container.imports.upload(of.people.Ines!, 'sheet.csv', body());
}
const confirm = (token: string, of = workspace) => of.container.imports.confirm(of.coordinator, token);

describe('an import of many rows', () => {
  it('is what it would be on the spot: its tasks, their parts and plans, its record, its undo', async () => {
    const onTheSpot = await openWorkspace('2026-03-05T07:00:00Z');
    for (const one of [workspace, onTheSpot]) {
      ruleOn(one, ruleOf([lead(-2, 'day')]), 'Ahead');
      const { result, changeId } = await confirm(await upload(sheet(), one), one);
      expect(result).toEqual({ created: ROWS, updated: 0 });
      await one.container.engine.tick();
      // The same keys again: each is updated.
      const again = sheet(ROWS, (i) => `Task ${i} renamed`).replaceAll('"a, b1"', '"c"');
      expect((await confirm(await upload(again, one), one)).result).toEqual({ created: 0, updated: ROWS });
      await one.container.engine.tick();
      expect(one.container.stores.changes.byId(changeId)).toMatchObject({ source: 'import' });
    }
    expect(standing(workspace)).toEqual(standing(onTheSpot));
    expect(workspace.container.db.pragma('foreign_key_check')).toEqual([]);
    for (const one of [workspace, onTheSpot]) {
      const [latest] = one.container.db
        .prepare<[], { id: number }>("SELECT id FROM change WHERE source = 'import' ORDER BY id DESC")
        .all();
      one.container.committer.undo(latest!.id, one.people.Ines!);
      await one.container.engine.tick();
    }
    expect(standing(workspace)).toEqual(standing(onTheSpot));
    await onTheSpot.close();
  });

  it('lets others read and write meanwhile, shows nothing before all is there, and leaves no file behind', async () => {
    const { container, coordinator } = workspace;
    const token = await upload(sheet());
    let busy = true;
    const seen = new Set<number>();
    let added = 0;
    const others = (async () => {
      while (busy) {
        await new Promise((next) => setTimeout(next, 5));
        seen.add(container.stores.tasks.count() - added);
        if (added < 20 && !container.work.isLent) {
          container.tasks.add(coordinator, taskInput({ name: `Meanwhile ${added}` }));
          added++;
        }
      }
    })();
    const progress: string[] = [];
    const watched = setInterval(() => {
      const far = container.imports.progress(token);
      if (far) progress.push(far.phase);
    }, 5);
    await confirm(token);
    busy = false;
    clearInterval(watched);
    await others;
    expect(added).toBe(20);
    expect([...seen].filter((count) => count !== 0 && count !== ROWS)).toEqual([]);
    expect(container.stores.tasks.count()).toBe(ROWS + 20);
    expect(new Set(progress)).toContain('writing');
    expect(readdirSync(threaded.folder).filter((name) => name.startsWith('arriving-'))).toEqual([]);
  });

  it('is written anew where others have changed what it goes by', async () => {
    const { container, coordinator } = workspace;
    await confirm(await upload(sheet()));
    const token = await upload(sheet(ROWS, (i) => `Task ${i} renamed`));
    const confirmed = confirm(token);
    while (container.imports.progress(token)?.phase !== 'writing')
      await new Promise((next) => setTimeout(next, 1));
    const [first] = container.stores.tasks.facts();
    container.tasks.edit(coordinator, first!.id, { description: 'Edited meanwhile' });
    await confirmed;
    const task = container.stores.tasks.byId(first!.id)!;
    // The sheet has no column for it.
    expect(task).toMatchObject({ name: 'Task 0 renamed', description: 'Edited meanwhile' });
  });

  it('is confirmed once, however often it is pressed', async () => {
    const token = await upload(sheet());
    const [first, second] = await Promise.allSettled([confirm(token), confirm(token)]);
    expect(first.status).toBe('fulfilled');
    // By then it is under way, or done with.
    expect(['import-under-way', 'import-gone']).toContain((second as PromiseRejectedResult).reason.code);
    await expect(confirm(token)).rejects.toMatchObject({ code: 'import-gone' });
    expect(workspace.container.stores.tasks.count()).toBe(ROWS);
  });
});

describe('an upload', () => {
  it('that cannot be stored is refused, and its thread answers the next', async () => {
    const { stores } = workspace.container;
    const full = Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
    const broken = vi.spyOn(stores.imports, 'addRow').mockImplementation(() => {
      throw full;
    });
    await expect(upload(sheet())).rejects.toBe(full);
    broken.mockRestore();
    await confirm(await upload(sheet()));
    expect(stores.tasks.count()).toBe(ROWS);
  });

  it('goes on beside an import that is being taken over', async () => {
    const [first, second] = [await upload(sheet()), await upload(sheet().replace(/^K(?=\d)/gm, 'L'))];
    const all = [confirm(first), confirm(second), upload(sheet(ROWS * 20))];
    expect((await Promise.allSettled(all)).map(({ status }) => status)).toEqual(all.map(() => 'fulfilled'));
    expect(workspace.container.stores.tasks.count()).toBe(ROWS * 2);
  });
});

describe('rules that listen', () => {
  const listening = () => rule([on('created', { wide: true })], [tell('all', { noticeKind: 'assigned' })]);
  const runs = () =>
    workspace.container.db.prepare<[], { n: number }>('SELECT count(*) AS n FROM run').get()!.n;

  it('hear of each task once, after it is there', async () => {
    ruleOn(workspace, listening(), 'Arrivals');
    await confirm(await upload(sheet()));
    await workspace.container.engine.tick();
    expect(runs()).toBe(ROWS);
    expect(workspace.container.stores.owedEvents.any).toBe(false);
    await workspace.container.engine.tick();
    expect(runs()).toBe(ROWS);
  });

  it('hear nothing of what was undone before they had heard', async () => {
    ruleOn(workspace, listening(), 'Arrivals');
    await workspace.container.engine.stop();
    const { changeId } = await confirm(await upload(sheet()));
    workspace.container.committer.undo(changeId, workspace.people.Ines!);
    await workspace.container.engine.tick();
    expect([runs(), tasksOf(workspace, 0).length]).toEqual([0, 0]);
  });
});
