import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Role } from '../../src/lib/core/access/deeds.ts';
import type { TaskInput } from '../../src/lib/server/task/schema.ts';
import { projectDetail } from '../../src/lib/server/project/project-views.ts';
import { personBells, personPage } from '../../src/lib/server/person/person-views.ts';
import { signedInAs, undoerAs, type SignedIn } from '../../src/lib/server/workspace/signed-in.ts';
import { mayPutInto, offeredProjects } from '../../src/lib/server/project/project-rights.ts';
import { columnsView, daysView } from '../../src/lib/server/task/task-shapes.ts';
import { taskCells } from '../../src/lib/server/task/task-cells.ts';
import { changeView } from '../../src/lib/server/record/change-views.ts';
import { journalCells, journalFilter } from '../../src/lib/server/record/journal-views.ts';
import { outboxCells, outboxFilter } from '../../src/lib/server/record/outbox-views.ts';
import { ruleChoices } from '../../src/lib/server/rule/rule-choices.ts';
import type { RuleInput } from '../../src/lib/server/rule/rules.ts';
import type { BulkInput } from '../../src/lib/server/task/bulk-schema.ts';
import { blankDigest } from '../../src/lib/core/digest/model.ts';
import { taskChoices, taskDetail } from '../../src/lib/server/task/task-views.ts';
import { mayEdit } from '../../src/lib/server/task/tasks.ts';
import { lead, openWorkspace, ruleOf, taskInput, type TestWorkspace } from '../support/workspace.ts';

/**
 * Who sees a task, and who may change it, by role and by what they have to do with it; and that every way to a task says the same. Ines looks after
 * everybody. The task is Nora’s; Tess is somebody else.
 */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
  const { container, people } = workspace;
  container.committer.commit({ personId: null, source: 'set-up' }, 'set up', (writer) => {
    for (const name of ['Salim', 'Meera', 'Nora', 'Tess'])
      writer.update('person', people[name]!, { manager_id: null });
  });
});
afterEach(() => workspace.close());

/** What somebody has to do with the task of somebody else. */
type Relation =
  'none' | 'owner' | 'creator' | 'co-owner' | 'member' | 'in its project' | 'manager' | 'former owner';
const NAME = 'Quillwork of the harbour';

const as = (name: string): SignedIn =>
  signedInAs(workspace.container.stores.people.byId(workspace.people[name]!)!, workspace.container.stores);
const actor = (name: string) => ({ personId: workspace.people[name]!, source: 'person' as const });

/** Salim, in a role, with something to do with a task; the task. */
function related(role: Role, relation: Relation, isPrivate: boolean): number {
  const { container, people, project } = workspace;
  container.committer.commit({ personId: null, source: 'set-up' }, 'set up', (writer) => {
    writer.update('person', people.Salim!, { role });
    if (relation === 'manager') writer.update('person', people.Nora!, { manager_id: people.Salim! });
    if (relation === 'member')
      writer.insert('project_member', { project_id: project, person_id: people.Salim!, role: 'member' });
  });
  const owner = relation === 'owner' || relation === 'former owner' ? 'Salim' : 'Nora';
  const by = relation === 'creator' ? 'Salim' : owner;
  const input: TaskInput = taskInput({ name: NAME, ownerId: people[owner]!, dueDate: '2026-03-09' });
  const { result: id } = container.tasks.add(actor(by), input);
  ({ changeId } = container.tasks.edit(actor(by), id, { description: `About the ${NAME}` }));
  container.committer.commit({ personId: null, source: 'set-up' }, 'set up', (writer) => {
    writer.update('task', id, {
      ...{ project_id: project, private: isPrivate ? 1 : 0 },
      ...(relation === 'former owner' ? { owner_id: people.Nora!, created_by: people.Nora! } : {})
    });
    writer.insert('task_tag', { task_id: id, name: 'quilltag' });
    if (relation === 'co-owner')
      writer.insert('co_owner', { task_id: id, person_id: people.Salim!, position: 0 });
  });
  if (relation === 'in its project') {
    const other = container.tasks.add(actor('Salim'), taskInput({ name: 'Other', ownerId: people.Salim! }));
    container.committer.commit({ personId: null, source: 'set-up' }, 'set up', (writer) =>
      writer.update('task', other.result, { project_id: project })
    );
  }
  return id;
}

/** What Nora’s task was made and changed by. */
let changeId = 0;

/** Ways that show every task that somebody sees, and no other. A new one gets a row here. */
const SHOW: Record<string, (who: SignedIn, id: number) => boolean> = {
  'by its address': ({ sight }, id) => workspace.container.stores.tasks.seen([id], sight).has(id),
  'in the list': ({ viewer, sight }) => {
    const { taskLists } = workspace.container;
    return said(taskLists.page(taskLists.read(new URLSearchParams('show=all')), null, viewer, sight));
  },
  'by search': ({ viewer, sight }) => {
    const { taskLists } = workspace.container;
    return taskLists.count(taskLists.read(new URLSearchParams('show=all&text=quillwork')), viewer, sight) > 0;
  },
  'in columns': ({ viewer, sight }) => {
    const { container } = workspace;
    const query = container.taskLists.read(new URLSearchParams('shape=columns'));
    return said(columnsView(container, query, viewer, sight));
  },
  'in a month': ({ viewer, sight }) => {
    const { container } = workspace;
    const query = container.taskLists.read(new URLSearchParams('shape=days'));
    return said(daysView(container, query, { month: '2026-03', week: true }, viewer, sight));
  },
  'in a file': ({ viewer, sight }) => {
    const { container } = workspace;
    const query = container.taskLists.read(new URLSearchParams('show=all'));
    return said([...taskCells(container, query, viewer, sight)]);
  },
  'by a tag in what can be chosen': ({ sight }) =>
    taskChoices(workspace.container, sight).tags.includes('quilltag')
};

/** Ways that show some of the tasks that somebody sees, and never another. */
const NEVER: Record<string, (who: SignedIn, id: number) => unknown> = {
  'on the page of its project': ({ viewer, sight }) =>
    projectDetail(workspace.container, workspace.project, viewer, sight),
  'on the page of its owner': ({ viewer, sight }) => [
    personPage(workspace.container, workspace.people.Nora!, true),
    personBells(workspace.container, { id: workspace.people.Nora!, all: true }, { viewer, sight })
  ],
  'among what is late': ({ viewer, sight }) => workspace.container.escalations.view({}, viewer, sight),
  'as what it stands above': ({ viewer, sight }, id) => {
    const { container, coordinator, people } = workspace;
    const input = taskInput({ name: 'Under it', ownerId: people.Ines! });
    const { result } = container.tasks.add(coordinator, input);
    container.tasks.edit({ personId: people.Ines!, source: 'person' }, result, { parentId: id });
    const under = container.stores.tasks.byId(result)!;
    return taskDetail(container, under, viewer, sight);
  },
  'as a change': (who) => changeView(workspace.container, changeId, who.viewer, undoerAs(who)),
  'in a look at many': ({ actor: by, viewer, sight }, id) => {
    const change = { act: 'priority', priority: 'high' } as const;
    return workspace.container.bulk.preview(by, { ids: [id], change } as BulkInput, viewer, sight);
  },
  'in a line that is typed': ({ person }) => workspace.container.quickAdd.read('Quill', person.id)
};

/** The same for those who look after the whole team. */
const NEVER_OVER_ALL: Record<string, (who: SignedIn, id: number) => unknown> = {
  'on the Bell tower': ({ viewer }) => workspace.container.tower.view(viewer),
  'in the journal': ({ viewer }) => [
    ...journalCells(workspace.container, journalFilter(new URLSearchParams(), viewer), viewer)
  ],
  'in the outbox': ({ viewer }) => [
    ...outboxCells(workspace.container, outboxFilter(new URLSearchParams(), viewer), viewer)
  ],
  'in the forecast of a rule': ({ viewer }) => {
    const definition = ruleOf([lead(-1, 'day')]);
    const input = { name: 'R', description: '', definition } as RuleInput;
    return [
      workspace.container.outlooks.ofRule(0, input, viewer),
      workspace.container.trials.tasksToTry(0, input, viewer)
    ];
  },
  'in a digest of its owner': ({ actor: by }) => {
    const { container, coordinator, people } = workspace;
    const when = { by: 'own hours' } as const;
    const definition = {
      ...blankDigest(),
      ...{ when, to: [{ who: 'person' as const, id: people.Nora! }], about: 'own' as const }
    };
    const { result } = container.digests.add(coordinator, { name: 'D', description: '', definition });
    return container.digests.preview(by, result, people.Nora!, Date.parse('2026-03-09T12:00Z'));
  },
  'by the tags that rules name': ({ viewer }) =>
    ruleChoices(workspace.container, 0, viewer).tags.includes('quilltag') ? NAME : ''
};
const said = (what: unknown) => JSON.stringify(what).includes(NAME);

/** By role and relation: whether it is seen, and changed; the same of a private one. */
const TABLE: [Role, Relation, sees: boolean, changes: boolean, seesPrivate: boolean][] = [
  ['owner', 'none', false, false, false],
  ['owner', 'owner', true, true, true],
  ['owner', 'creator', true, true, false],
  ['owner', 'co-owner', true, true, false],
  ['owner', 'member', true, false, false],
  ['owner', 'in its project', true, false, false],
  ['owner', 'manager', false, false, false],
  ['owner', 'former owner', false, false, false],
  ['manager', 'none', false, false, false],
  ['manager', 'manager', true, true, false],
  ['manager', 'member', true, false, false],
  ['manager', 'former owner', false, false, false],
  ['coordinator', 'none', true, true, false],
  ['coordinator', 'owner', true, true, true],
  ['coordinator', 'creator', true, true, false],
  ['coordinator', 'manager', true, true, false],
  ['administrator', 'none', true, true, false],
  ['administrator', 'creator', true, true, false]
];

describe('a task', () => {
  it.each(TABLE)('%s, %s: seen %s, changed %s', (role, relation, sees, changes) => {
    const id = related(role, relation, false);
    const who = as('Salim');
    for (const [way, shows] of Object.entries(SHOW)) expect([way, shows(who, id)]).toEqual([way, sees]);
    if (!sees)
      for (const [way, shown] of Object.entries(NEVER))
        expect([way, said(shown(who, id))]).toEqual([way, false]);
    const task = workspace.container.stores.tasks.byId(id)!;
    expect(sees && mayEdit(task, who.sight, workspace.container)).toBe(changes);
  });

  it.each(TABLE)('that is private, %s, %s', (role, relation, _sees, _changes, sees) => {
    const id = related(role, relation, true);
    const who = as('Salim');
    for (const [way, shows] of Object.entries(SHOW)) expect([way, shows(who, id)]).toEqual([way, sees]);
    if (sees) return;
    const never = who.may('watch the whole team') ? { ...NEVER, ...NEVER_OVER_ALL } : NEVER;
    for (const [way, shown] of Object.entries(never))
      expect([way, said(shown(who, id))]).toEqual([way, false]);
    expect(() => workspace.container.undo.undo(changeId, undoerAs(who))).toThrow();
  });
});

describe('a project', () => {
  it.each<[Role, Relation, own: boolean, ofNora: boolean]>([
    // What they have to do with Nora, who has a task in it: tasks of their own, tasks of hers.
    ['owner', 'none', false, false],
    ['owner', 'member', true, true],
    ['owner', 'in its project', true, true],
    ['owner', 'manager', false, false],
    ['manager', 'manager', false, true],
    ['manager', 'none', false, false],
    ['coordinator', 'none', true, true]
  ])('%s, %s: takes their own tasks %s, Nora’s %s', (role, relation, own, ofNora) => {
    related(role, relation, false);
    const { container, people, project } = workspace;
    const { sight } = as('Salim');
    const puts = (owner: string) => mayPutInto(container.stores, sight, project, people[owner]!);
    expect([puts('Salim'), puts('Nora')]).toEqual([own, ofNora]);
    const add = () =>
      container.tasks.add(
        actor('Salim'),
        taskInput({ name: 'Let me in', ownerId: people.Salim!, projectId: project })
      );
    if (own) expect(add).not.toThrow();
    else expect(add).toThrow('You cannot add tasks to this project. Ask a coordinator to make you a member.');
    const offered = offeredProjects(container.stores, sight).length > 0;
    expect(offered).toBe(own || ofNora);
  });
});
