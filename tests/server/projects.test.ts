import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { taskDetail } from '../../src/lib/server/task/task-views.ts';
import { projectDetail, projectRows } from '../../src/lib/server/project/project-views.ts';
import { FINISHED, tasksIn } from '../support/tasks.ts';
import {
  MANAGER,
  SEES_ALL,
  lead,
  openWorkspace,
  ruleOf,
  ruleOn,
  type TestWorkspace
} from '../support/workspace.ts';

let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T08:00Z');
});
afterEach(() => workspace.close());

const { add, edit, viewer, tick } = tasksIn(() => workspace);
const detail = (id: number) =>
  taskDetail(workspace.container, workspace.container.stores.tasks.byId(id)!, viewer(), SEES_ALL);
const INPUT = {
  name: 'Permits',
  description: '',
  zone: null,
  calendarId: null,
  pinned: false,
  state: 'open',
  register: false
} as const;

describe('a project', () => {
  it('has a name of its own among those that are open, however it is written', () => {
    const { container, coordinator, project } = workspace;
    const { projects } = container;
    expect(() => projects.add(coordinator, { ...INPUT, name: ' permits ' })).toThrow(
      'There is already an open project “Permits”. Choose another name.'
    );
    const buoys = projects.add(coordinator, { ...INPUT, name: 'Buoys' }).result;
    expect(() => projects.edit(coordinator, buoys, { ...INPUT, name: 'Permits' })).toThrow(
      'There is already an open project “Permits”. Choose another name.'
    );
    projects.edit(coordinator, project, { ...INPUT, state: 'closed' });
    projects.edit(coordinator, buoys, { ...INPUT, name: 'Permits' });
    // Nor is one opened again beside another of its name.
    expect(() => projects.edit(coordinator, project, INPUT)).toThrow(
      'There is already an open project “Permits”. Choose another name.'
    );
  });

  it('counts its work and names every rule with why it covers it or does not', () => {
    const { container, coordinator, project } = workspace;
    const other = container.projects.add(coordinator, { ...INPUT, name: 'Buoys' }).result;
    const everywhere = ruleOf([lead(-1, 'day')]);
    ruleOn(workspace, everywhere, 'Everywhere');
    ruleOn(workspace, { ...everywhere, watch: { ...everywhere.watch, projects: [other] } }, 'Buoys alone');
    ruleOn(workspace, { ...everywhere, watch: { ...everywhere.watch, priorities: ['high'] } }, 'High alone');
    add({ name: 'A task', projectId: project, dueDate: '2026-03-04', ownerId: workspace.people.Ines });
    add({ projectId: project, statusId: FINISHED });
    const view = projectDetail(container, project, viewer(), SEES_ALL)!;
    expect(view.row).toMatchObject({ open: 1, done: 1, overdue: 1, rules: 2 });
    add({ projectId: project, name: 'No date' });
    add({ projectId: project, name: 'At nine', dueDate: '2026-03-04', dueTime: '09:00' });
    add({ projectId: project, name: 'The day before', dueDate: '2026-03-03' });
    const { tasks } = projectDetail(container, project, viewer(), SEES_ALL)!;
    expect(tasks.map(({ name }) => name)).toEqual(['The day before', 'At nine', 'A task', 'No date']);
    const reasons = Object.fromEntries(
      view.rules.map(({ name, applies, reasons: why }) => [name, [applies, why[0]]])
    );
    expect(reasons).toEqual({
      Everywhere: [true, 'it watches all projects'],
      'Buoys alone': [false, 'it watches open tasks in Buoys'],
      'High alone': [true, 'it watches all projects']
    });
    container.projects.edit(coordinator, project, { ...INPUT, state: 'closed' });
    const closed = projectDetail(container, project, viewer(), SEES_ALL)!;
    expect(closed.row).toMatchObject({ state: 'closed', overdue: 0, rules: 0 });
    expect(closed.rules.find(({ name }) => name === 'Everywhere')).toMatchObject({
      applies: false,
      reasons: ['the project is closed']
    });
  });

  it('shows its members its tasks, and nobody else', () => {
    const { container, coordinator, project, people } = workspace;
    const id = add({ projectId: project, ownerId: people.Salim });
    const hidden = add({ projectId: project, ownerId: people.Ines, private: true });
    const sight = { personId: people.Nora!, all: false, reports: [] };
    const seen = () => [...container.stores.tasks.seen([id, hidden], sight)];
    expect(seen()).toEqual([]);
    expect(projectRows(container, sight)).toEqual([]);
    expect(projectDetail(container, project, viewer(), sight)).toBeNull();
    container.projects.saveMember(coordinator, project, { personId: people.Nora!, role: 'diver' });
    expect(seen()).toEqual([id]);
    expect(projectDetail(container, project, viewer(), sight)?.members).toMatchObject([
      { name: 'Nora', role: 'diver' }
    ]);
    container.projects.saveMember(coordinator, project, { personId: people.Nora!, role: 'lead' });
    const [member] = container.stores.projects.membersOf(project);
    expect(member).toMatchObject({ role: 'lead' });
    container.projects.dropMember(coordinator, project, member!.id);
    expect(seen()).toEqual([]);
  });

  it('keeps its sections in order; one that is taken out leaves its tasks in the project', () => {
    const { container, coordinator, project } = workspace;
    for (const name of ['Diving', 'Mooring', 'Paper'])
      container.projects.saveSection(coordinator, project, null, name);
    const names = () => container.stores.projects.sectionsOf(project).map(({ name }) => name);
    const idOf = (name: string) =>
      container.stores.projects.sectionsOf(project).find((one) => one.name === name)!.id;
    container.projects.moveSection(coordinator, project, idOf('Paper'), -1);
    expect(names()).toEqual(['Diving', 'Paper', 'Mooring']);
    const id = add({ projectId: project, sectionId: idOf('Paper') });
    const { changeId } = container.projects.dropSection(coordinator, project, idOf('Paper'));
    expect(container.stores.tasks.byId(id)).toMatchObject({ projectId: project, sectionId: null });
    container.committer.undo(changeId, workspace.people.Ines!);
    expect(container.stores.tasks.byId(id)).toMatchObject({ sectionId: idOf('Paper') });
    // In another project it has no section.
    edit(id, { projectId: null });
    expect(container.stores.tasks.byId(id)).toMatchObject({ projectId: null, sectionId: null });
    expect(() => container.projects.saveSection(coordinator, project, 999, 'x')).toThrow(
      /section was not found/
    );
  });
});

describe('a task as it opens', () => {
  it('names each rule with why it does not ring, test by test', async () => {
    const { people, project } = workspace;
    const definition = ruleOf([lead(-1, 'day'), lead(-2, 'day', { anchor: 'start' })]);
    ruleOn(workspace, definition, 'Rings');
    const narrow = { ...definition.watch, projects: [project], priorities: ['pressing' as const] };
    ruleOn(workspace, { ...definition, watch: narrow }, 'Narrow');
    ruleOn(workspace, ruleOf([lead(0, 'day')], { to: [MANAGER] }), 'Managers');
    const id = add({ ownerId: people.Ines, dueDate: '2026-03-20' });
    const rules = () => Object.fromEntries(detail(id).rules.map((rule) => [rule.name, rule]));
    expect(rules().Rings).toMatchObject({
      applies: true,
      reasons: [expect.stringContaining('Thu 19 Mar, to Ines'), expect.stringContaining('no such date')]
    });
    expect(rules().Narrow).toMatchObject({
      applies: false,
      reasons: ['its priority is ordinary', 'it has no project']
    });
    expect(rules().Managers?.reasons).toEqual(['its owner has no manager, so nobody is told']);
    edit(id, { statusId: FINISHED });
    expect(rules().Rings).toMatchObject({ applies: false, reasons: ['it is finished'] });
    await tick();
    expect(detail(id).coming).toEqual([]);
  });

  it('has a record of who changed what, tags and own fields included', () => {
    const { container, coordinator, people } = workspace;
    const { result: field } = container.fields.save(coordinator, {
      id: null,
      name: 'Depth',
      kind: 'number',
      choices: [],
      metByStatusId: null
    });
    const { result: buddy } = container.fields.save(coordinator, {
      id: null,
      name: 'Buddy',
      kind: 'person',
      choices: [],
      metByStatusId: null
    });
    const id = add({ name: 'Dive', ownerId: people.Salim });
    edit(id, {
      dueDate: '2026-03-10',
      ownerId: people.Nora,
      tags: ['reef'],
      fields: { [field]: 12, [buddy]: people.Meera! }
    });
    container.clock.set(container.clock.now() + 60_000, false);
    container.taskActs.comment(coordinator, id, 'Soon');
    const lines = detail(id).record;
    expect(lines.map(({ title }) => title)).toEqual([
      'Comment on “Dive”',
      'Task “Dive” changed',
      'Task “Dive” added'
    ]);
    expect(lines[1]).toMatchObject({ by: 'Ines', source: null });
    expect(lines[1]!.changes).toEqual(
      expect.arrayContaining([
        { field: 'owner', before: 'Salim', after: 'Nora' },
        { field: 'due date', before: 'nothing', after: 'Tue 10 Mar' },
        { field: 'tag', before: 'nothing', after: 'reef' },
        { field: 'Depth', before: 'nothing', after: '12' },
        { field: 'Buddy', before: 'nothing', after: 'Meera' }
      ])
    );
  });

  it('shows deadlines of its own: days left, late, and met by a status', () => {
    const { container, coordinator } = workspace;
    const { result: field } = container.fields.save(coordinator, {
      id: null,
      name: 'Permit ends',
      kind: 'date range',
      choices: [],
      metByStatusId: FINISHED
    });
    const { result: place } = container.fields.save(coordinator, {
      id: null,
      name: 'Landing place',
      kind: 'text',
      choices: [],
      metByStatusId: FINISHED
    });
    const ends = (until: string) => ({ [field]: { from: '2026-02-01', until }, [place]: 'the slipway' });
    const id = add({ fields: ends('2026-03-08') });
    expect(detail(id).deadlines).toEqual([
      { field: 'Permit ends', words: 'due in 3 days', overdue: false, met: false }
    ]);
    edit(id, { fields: ends('2026-03-03') });
    expect(detail(id).deadlines).toMatchObject([{ words: '2 working days overdue', overdue: true }]);
    edit(id, { statusId: FINISHED });
    expect(detail(id).deadlines).toMatchObject([{ words: 'met', overdue: false, met: true }]);
  });

  it('connects with tasks and projects, both ways, and with nothing twice', () => {
    const { container, coordinator, project } = workspace;
    const [a, b] = [add({ name: 'A' }), add({ name: 'B' })];
    container.taskActs.connect(coordinator, a, { taskId: b });
    container.taskActs.connect(coordinator, b, { taskId: a });
    container.taskActs.connect(coordinator, a, { projectId: project });
    expect(detail(b).links).toMatchObject([{ kind: 'task', name: 'A' }]);
    expect(detail(a).links).toMatchObject([
      { kind: 'task', name: 'B' },
      { kind: 'project', name: 'Permits' }
    ]);
    expect(projectDetail(container, project, viewer(), SEES_ALL)?.connected).toMatchObject([{ name: 'A' }]);
    expect(() => container.taskActs.connect(coordinator, a, { taskId: a })).toThrow(/connected with itself/);
    container.taskActs.disconnect(coordinator, b, detail(b).links[0]!.id);
    expect(detail(a).links).toMatchObject([{ kind: 'project' }]);
  });

  it('says when it comes back, what was passed over, and how it is put', () => {
    const id = add({ dueDate: '2026-02-16', rhythm: { n: 1, unit: 'week' }, renewFrom: 'due' });
    expect(detail(id).nextRound).toBe('If finished now, next due Mon 9 Mar. Skipped: Mon 23 Feb, Mon 2 Mar.');
    edit(id, { rhythm: { rrule: 'FREQ=WEEKLY;COUNT=1' }, dueDate: '2026-03-09' });
    expect(detail(id).nextRound).toBe('The series has ended.');
  });
});

describe('open pages', () => {
  const open = (name: string) => {
    const { live, auth } = workspace.container;
    const session = auth.signInAs(workspace.people[name]!);
    const stream = live.open(workspace.people[name]!, session);
    return {
      session,
      stream,
      reader: stream?.getReader(),
      next: null as Promise<ReadableStreamReadResult<Uint8Array>> | null
    };
  };
  /** What has come by now; a read that found nothing goes on waiting for the next time. */
  const heard = async (page: ReturnType<typeof open>) => {
    let text = '';
    for (;;) {
      const next = await Promise.race([
        (page.next ??= page.reader!.read()),
        new Promise<null>((resolve) => setTimeout(resolve, 30, null))
      ]);
      if (next === null) return text;
      page.next = null;
      if (next.done) return `${text}ended`;
      text += new TextDecoder().decode(next.value);
    }
  };

  it('hear that there is a change, and nothing of it', async () => {
    const page = open('Ines');
    const id = add({ name: 'Secret words' });
    edit(id, { name: 'Other words' });
    expect(await heard(page)).toBe(`retry: 3000\n\n${'event: change\ndata: {}\n\n'.repeat(2)}`);
    workspace.container.live.close();
    expect(await heard(page)).toBe('ended');
  });

  it('hear of a private task only where it is their own', async () => {
    const [hers, others] = [open('Ines'), open('Nora')];
    await Promise.all([heard(hers), heard(others)]);
    add({ name: 'Only mine', ownerId: workspace.people.Ines!, private: true });
    expect(await heard(hers)).toContain('change');
    expect(await heard(others)).toBe('');
  });

  it('end with their session, and are five a person at most', async () => {
    const { auth } = workspace.container;
    const pages = Array.from({ length: 5 }, () => open('Ines'));
    expect(open('Ines').stream).toBeNull();
    expect(open('Nora').stream).not.toBeNull();
    await heard(pages[0]!);
    auth.signOut(pages[0]!.session);
    expect(await heard(pages[0]!)).toBe('ended');
    const again = open('Ines');
    expect(again.stream).not.toBeNull();
    auth.signOutEverywhere(workspace.people.Ines!);
    expect(await heard(again)).toContain('ended');
  });

  it('that read nothing are not kept for without end', async () => {
    const page = open('Ines');
    for (let i = 0; i < 150; i++) workspace.container.live.tellNotice(workspace.people.Ines!);
    expect(await heard(page)).toMatch(/ended$/);
  });
});
