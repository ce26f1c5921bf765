import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { blankDigest } from '../../src/lib/core/digest/model.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import type { HandOverInput } from '../../src/lib/server/person/hand-over-schema.ts';
import { signedInAs } from '../../src/lib/server/workspace/signed-in.ts';
import { on, step } from '../support/rules.ts';
import {
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** Nora leaves: what hangs on her is handed over in one act, which says before what it does and can be taken back. */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T10:40:00Z');
});
afterEach(() => workspace.close());

const id = (name: string) => workspace.people[name]!;
const add = (name: string, owner: string, patch = {}, by = owner) =>
  workspace.container.tasks.add(
    { personId: id(by), source: 'person' },
    taskInput({ name, ownerId: id(owner), dueDate: '2026-03-09', ...patch })
  ).result;
const task = (taskId: number) => workspace.container.stores.tasks.byId(taskId)!;
const others = (taskId: number) => workspace.container.stores.tasks.otherOwnersOf(taskId);
const input = (patch: Partial<HandOverInput> = {}): HandOverInput => ({
  ...{ work: null, keeping: null, people: null, deactivate: false },
  ...patch
});
const handOver = (patch: Partial<HandOverInput>) =>
  workspace.container.handOver.apply(workspace.coordinator, id('Nora'), input(patch));

/** Nora owns, keeps, leads and stands in. */
function held() {
  const { container, coordinator, people, project } = workspace;
  const open = add('Open', 'Nora');
  const besides = add('Besides', 'Meera');
  const both = add('Both', 'Nora');
  const hidden = add('Hers alone', 'Nora', { private: true });
  const rule = ruleOn(workspace, ruleOf([lead(0, 'day')]), 'Hers');
  const { result: digest } = container.digests.add(coordinator, {
    ...{ name: 'D', description: '', definition: blankDigest() }
  });
  container.committer.commit({ personId: null, source: 'set-up' }, 'set up', (writer) => {
    writer.insert('co_owner', { task_id: besides, person_id: people.Nora!, position: 0 });
    writer.insert('co_owner', { task_id: both, person_id: people.Tess!, position: 0 });
    writer.insert('project_member', { project_id: project, person_id: people.Nora!, role: 'member' });
    writer.update('rule', rule, { keeper_id: people.Nora! });
    writer.update('digest', digest, { keeper_id: people.Nora! });
    writer.insert('reader_list', {
      name: 'Readers',
      recipients: JSON.stringify([
        { who: 'person', id: people.Nora },
        { who: 'person', id: people.Tess }
      ])
    });
    for (const name of ['Salim', 'Tess'])
      writer.update('person', people[name]!, { manager_id: people.Nora! });
    const group = writer.insert('team_group', { name: 'Crew' });
    writer.insert('group_member', { group_id: group, person_id: people.Nora! });
    for (const [name, from, until] of [
      ['Salim', '2026-03-16', '2026-03-20'],
      ['Tess', '2026-03-16', '2026-03-20'],
      ['Meera', '2026-01-05', '2026-01-09']
    ])
      writer.insert('leave', {
        ...{
          person_id: people[name!]!,
          from_at: from!,
          until_at: until!,
          stand_in_id: people.Nora!,
          note: ''
        }
      });
  });
  return { open, besides, both, hidden, rule, digest };
}

describe('what hangs on somebody', () => {
  it('is said before, each part by its names', () => {
    held();
    expect(workspace.container.handOver.heldBy(id('Nora'))).toEqual({
      ...{ tasks: 2, privateTasks: 1, besides: 1, projects: 1, questions: 0 },
      ...{ rules: ['Hers'], digests: ['D'], sweeps: [], readerLists: ['Readers'], groups: ['Crew'] },
      ...{ reports: ['Salim', 'Tess'], standsInFor: ['Salim', 'Tess'] }
    });
  });

  it('goes to those who are named, once, and comes back with one undo', () => {
    const { open, besides, both, hidden, rule, digest } = held();
    const { stores, committer } = workspace.container;
    const before = JSON.stringify([stores.people.all(), stores.people.leave(), stores.readers.lists()]);
    const { changeId } = handOver({
      work: id('Tess'),
      keeping: id('Tess'),
      people: id('Tess'),
      deactivate: true
    });
    expect([open, both].map((one) => task(one).ownerId)).toEqual([id('Tess'), id('Tess')]);
    expect(others(both)).toEqual([]);
    expect(others(besides)).toEqual([id('Tess')]);
    expect(task(hidden).ownerId).toBe(id('Nora'));
    expect(stores.rules.byId(rule)!.keeperId).toBe(id('Tess'));
    expect(stores.digests.byId(digest)!.keeperId).toBe(id('Tess'));
    expect(stores.readers.lists()[0]!.recipients).toEqual([{ who: 'person', id: id('Tess') }]);
    const person = (name: string) => stores.people.byId(id(name))!;
    // Who takes the people over reports to whom the one before did.
    expect([person('Salim').managerId, person('Tess').managerId]).toEqual([
      id('Tess'),
      person('Nora').managerId
    ]);
    expect(person('Tess').groups).toEqual(['Crew']);
    expect(person('Nora')).toMatchObject({ active: false, groups: [] });
    // Nobody stands in for themselves; what is over stays as it was.
    expect(
      stores.people
        .leave()
        .map(({ personId, standInId }) => [personId, standInId])
        .sort()
    ).toEqual(
      [
        [id('Salim'), id('Tess')],
        [id('Tess'), null],
        [id('Meera'), id('Nora')]
      ].sort()
    );
    committer.undo(changeId, id('Ines'));
    expect(JSON.stringify([stores.people.all(), stores.people.leave(), stores.readers.lists()])).toBe(before);
    expect([task(open).ownerId, others(both), others(besides)]).toEqual([
      ...[id('Nora'), [id('Tess')], [id('Nora')]]
    ]);
  });

  it('what is not named stays, and what cannot be is refused', () => {
    const { open, rule } = held();
    handOver({ keeping: id('Ines') });
    expect([task(open).ownerId, workspace.container.stores.rules.byId(rule)!.keeperId]).toEqual([
      ...[id('Nora'), id('Ines')]
    ]);
    const code = (expected: string) => expect.objectContaining({ code: expected });
    expect(() => handOver({})).toThrow(code('hand-over-nothing'));
    expect(() => handOver({ work: id('Nora') })).toThrow(code('hand-over-self'));
    expect(() => handOver({ work: 99 })).toThrow(code('person-gone'));
    workspace.container.people.deactivate(workspace.coordinator, id('Salim'));
    expect(() => handOver({ people: id('Salim') })).toThrow(code('person-deactivated'));
  });

  it('what rules have asked waits for who takes the work, and for them again once it is taken back', async () => {
    const { container, coordinator } = workspace;
    const asking: Step = {
      ...step('park'),
      kind: 'do',
      acts: [{ act: 'park', review: { from: 'today', n: 7, unit: 'day' } }],
      ask: { question: 'May this be parked?', workingDays: 2, otherwise: 'no' }
    };
    ruleOn(workspace, { ...ruleOf([lead(0, 'day', { time: '11:00' })]), steps: [asking] }, 'Asks');
    const [open, hidden] = [
      add('Open', 'Nora', { dueDate: '2026-03-05' }),
      add('Own', 'Nora', { dueDate: '2026-03-05', private: true })
    ];
    await container.engine.moveClock(Date.parse('2026-03-05T16:00Z'));
    const asked = () => container.stores.questions.openOf(open)[0]!;
    expect(container.stores.questions.openOf(hidden)).toEqual([]);
    expect(asked().personId).toBe(id('Nora'));
    expect(container.handOver.heldBy(id('Nora')).questions).toBe(1);
    const first = handOver({ work: id('Tess') });
    const { changeId } = container.handOver.apply(coordinator, id('Tess'), input({ work: id('Meera') }));
    expect(asked().personId).toBe(id('Meera'));
    const answer = (name: string) =>
      container.handRings.answer({ personId: id(name), source: 'person' }, false, asked().id, 'yes');
    for (const name of ['Nora', 'Tess'])
      expect(() => answer(name)).toThrow(expect.objectContaining({ code: 'question-not-yours' }));
    container.committer.undo(changeId, id('Ines'));
    expect(asked().personId).toBe(id('Tess'));
    container.committer.undo(first.changeId, id('Ines'));
    expect(asked().personId).toBe(id('Nora'));
    answer('Nora');
    await container.engine.tick();
    expect(task(open).setAside).toBe('parked');
  });

  it('says beforehand what leaves because of it, and that then leaves', async () => {
    const { open } = held();
    ruleOn(
      workspace,
      ruleOf([on('assigned')], {
        ...{ subject: '‹task› is yours', reach: 'any time', gather: 'per task' }
      }),
      'Given'
    );
    const { container } = workspace;
    const person = container.stores.people.byId(id('Ines'))!;
    const looked = (await container.tryOuts.look(person.id, {
      ...{ act: 'hand over', personId: id('Nora'), input: input({ work: id('Tess') }) }
    })) as { stamp: string; atOnce: { messages: number } };
    expect(task(open).ownerId).toBe(id('Nora'));
    const { viewer } = signedInAs(person, container.stores);
    const apply = (stamp: string) =>
      container.handOver.applyLookedAt(
        workspace.coordinator,
        id('Nora'),
        input({ work: id('Tess') }),
        viewer,
        stamp
      );
    // Where it would do something else by now it is refused.
    const { changeId } = container.tasks.edit(workspace.coordinator, open, { ownerId: id('Meera') });
    expect(() => apply(looked.stamp)).toThrow(expect.objectContaining({ code: 'preview-stale' }));
    container.committer.undo(changeId, id('Ines'));
    apply(looked.stamp);
    await container.engine.tick();
    await container.outbox.drain();
    const left = (await received(workspace)).filter(({ subject }) => subject.endsWith('is yours'));
    expect(left.map(({ to, subject }) => `${to[0]} ${subject}`).sort()).toEqual([
      'tess@test.example Both is yours',
      'tess@test.example Open is yours'
    ]);
    expect(looked.atOnce.messages).toBe(2);
  });
});
