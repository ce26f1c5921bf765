import { describe, expect, it } from 'vitest';
import { eachInAWorkspace, workspace } from '../support/rules.ts';
import { taskInput, tasksOf } from '../support/workspace.ts';

/** Sheets that come with other words than ours, with faults, and more than once. */
eachInAWorkspace();

const upload = (csv: string) => {
  const body = async function* () {
    yield Buffer.from(csv);
  };
  return workspace.container.imports.upload(workspace.people.Ines!, 'sheet.csv', body());
};
const review = (token: string, chosen = {}) =>
  workspace.container.imports.review(token, workspace.people.Ines!, chosen);
const confirm = async (token: string) =>
  (await workspace.container.imports.confirm(workspace.coordinator, token)).result;

describe('a row of a sheet', () => {
  it('goes through the same rules as the form, and says everything that is wrong with it at once', async () => {
    const long = 'x'.repeat(25_000);
    const token = await upload(
      `Task,Owner,Due,Due time,Priority,Description\n,Innes,2026-02-30,25:00,whatever,${long}\n`
    );
    const { problems } = await review(token);
    expect(problems.map(({ line, faults }) => [line, faults.map(({ column }) => column)])).toEqual([
      [2, ['name', 'description', 'owner', 'priority', 'dueTime', 'due']]
    ]);
    expect(problems[0]!.faults[1]!.reason).toBe('Keep the description under 20,000 characters.');
  });

  it('knows people by a first name that one person has, and priorities by common words', async () => {
    workspace.container.committer.commit(workspace.coordinator, 'names', (writer) => {
      writer.update('person', workspace.people.Ines!, { name: 'Inês Moura' });
      writer.update('person', workspace.people.Nora!, { name: 'Nora Fielding' });
      writer.update('person', workspace.people.Tess!, { name: 'Nora Whitlam' });
    });
    const token = await upload('Task,Owner,Priority\nA,INES,Urgent\nB,Nora,medium\nC,Ines Moura,Low\n');
    const said = await review(token);
    expect(said.preview.map(({ task }) => [task.name, task.ownerId, task.priority])).toEqual([
      ['A', workspace.people.Ines, 'pressing'],
      ['C', workspace.people.Ines, 'low']
    ]);
    // Two people are called Nora: nobody is guessed.
    expect(said.names).toMatchObject([{ column: 'owner', text: 'Nora', rows: 1, chosen: '' }]);
  });

  it('is matched by hand or with the nearest, name by name, and mended in its cell', async () => {
    const { imports } = workspace.container;
    const token = await upload(
      'Task,Owner,Project,Priority\nA,Innes,Permitz,ordinary\nB,the new one,Permitz,pressng\nC,Ines,,soon\n'
    );
    expect(await review(token)).toMatchObject({ good: 0, problemCount: 3 });
    await imports.matchNearest(token, workspace.people.Ines!);
    expect(await review(token)).toMatchObject({ good: 1, newProjects: [] });
    expect(
      await review(token, { matches: { owner: { 'the new one': String(workspace.people.Tess) } } })
    ).toMatchObject({ good: 2, problemCount: 1 });
    imports.mend(token, workspace.people.Ines!, 4, 3, 'high');
    expect(await review(token)).toMatchObject({ good: 3, problemCount: 0 });
    expect(() => imports.mend(token, workspace.people.Ines!, 99, 3, 'high')).toThrow();
    expect(() => imports.mend(token, workspace.people.Nora!, 4, 3, 'high')).toThrow();
    await confirm(token);
    expect(
      tasksOf(workspace, 9)
        .map(({ name, ownerId, projectId, priority }) => [name, ownerId, projectId, priority])
        .sort()
    ).toEqual([
      ['A', workspace.people.Ines, workspace.project, 'ordinary'],
      ['B', workspace.people.Tess, workspace.project, 'pressing'],
      ['C', workspace.people.Ines, null, 'high']
    ]);
    // A name that is matched with nothing again is unknown again.
    const again = await upload('Task,Owner\nA,Innes\n');
    await imports.matchNearest(again, workspace.people.Ines!);
    expect(await review(again, { matches: { owner: { innes: '' } } })).toMatchObject({ problemCount: 1 });
  });
});

describe('a sheet that comes again', () => {
  const csv =
    'Key,Task,Project,Due,Owner\n,Renew it,Permits,2026-03-12,Ines\n,Call them,Second,2026-03-13,Ines\n';

  it('doubles nothing, mended or with its key column emptied', async () => {
    expect(await confirm(await upload(csv))).toEqual({ created: 2, updated: 0 });
    const token = await upload(csv.replace('Renew it', ' RENEW it').replace('Call them', 'Call them,'));
    const said = await review(token);
    expect(said).toMatchObject({ good: 0, known: { count: 1, first: [{ line: 2, name: 'RENEW it' }] } });
    const same = await upload(csv);
    expect(await review(same)).toMatchObject({ good: 0, known: { count: 2 } });
    await expect(confirm(same)).rejects.toMatchObject({ code: 'import-nothing' });
    expect(workspace.container.stores.tasks.count()).toBe(2);
  });

  it('leaves what it has no column for as it is', async () => {
    const full =
      'Key,Task,Project,Due,Owner,Priority,Start,Description\nK1,Renew,Permits,2026-03-12,Ines,high,2026-03-09,By ferry\n';
    await confirm(await upload(full));
    const [before] = tasksOf(workspace, 9);
    expect(await confirm(await upload('Key,Task\nK1,Renew it\n'))).toEqual({ created: 0, updated: 1 });
    const after = workspace.container.stores.tasks.byId(before!.id)!;
    expect(after).toMatchObject({
      name: 'Renew it',
      projectId: workspace.project,
      ownerId: workspace.people.Ines,
      priority: 'high',
      description: 'By ferry',
      due: { date: '2026-03-12' },
      start: { date: '2026-03-09' }
    });
  });

  it('updates what is here, or adds it once more, where that is chosen for all', async () => {
    await confirm(await upload(csv));
    const other = csv.replaceAll('Ines\n', 'Nora\n');
    const token = await upload(other);
    expect(await review(token, { known: 'update' })).toMatchObject({ good: 2, updated: 2, created: 0 });
    expect(await confirm(token)).toEqual({ created: 0, updated: 2 });
    expect(tasksOf(workspace, 9).map(({ ownerId }) => ownerId)).toEqual([
      workspace.people.Nora,
      workspace.people.Nora
    ]);
    const more = await upload(other);
    await review(more, { known: 'add again' });
    expect(await confirm(more)).toEqual({ created: 2, updated: 0 });
  });

  it('with the same row twice takes it once, and says nothing of what is private to others', async () => {
    const nora = { personId: workspace.people.Nora!, source: 'person' as const };
    const secret = { name: 'Secret', ownerId: nora.personId, dueDate: '2026-03-12', private: true };
    workspace.container.tasks.add(nora, taskInput(secret));
    const token = await upload(
      'Task,Due,Owner\nA,2026-03-12,Ines\na,2026-03-12,Nora\nSecret,2026-03-12,Ines\n'
    );
    expect(await review(token)).toMatchObject({
      good: 2,
      known: { count: 1, first: [{ line: 3, taskId: null }] }
    });
    expect(await confirm(token)).toEqual({ created: 2, updated: 0 });
  });
});
