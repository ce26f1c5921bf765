import { beforeEach, describe, expect, it } from 'vitest';
import type { Undoer } from '../../src/lib/server/record/undo.ts';
import { lead, ruleOf, ruleOn, SEES_ALL } from '../support/workspace.ts';
import { add, eachInAWorkspace, edit, moveTo, tick, workspace } from '../support/rules.ts';

/** Who may take something back, and what is no task. Thursday 5 March 2026, 07:00Z. */
eachInAWorkspace();
beforeEach(() => workspace.container.digests.turn(workspace.coordinator, 1, 'off'));

const undo = (changeId: number) =>
  workspace.container.committer.undo(changeId, workspace.people.Ines!).result;

describe('who may', () => {
  const as = (name: string, patch: Partial<Undoer> = {}): Undoer => ({
    personId: workspace.people[name]!,
    sight: { personId: workspace.people[name]!, all: false, reports: [] },
    may: () => false,
    ...patch
  });
  const coordinator = () =>
    as('Ines', { sight: { ...SEES_ALL, personId: workspace.people.Ines! }, may: () => true });

  it('take back has the right over each task now: whoever did it and was a coordinator then has not', async () => {
    const ids = [add({ name: 'Hers', ownerId: workspace.people.Nora! }), add({ name: 'Not hers' })];
    const { result: _, changeId } = workspace.container.committer.commit(
      { personId: workspace.people.Nora!, source: 'person' },
      '2 tasks of high priority',
      (writer) => ids.map((id) => writer.update('task', id, { priority: 'high' }))
    );
    const { undo } = workspace.container;
    expect(() => undo.undo(changeId, as('Nora'))).toThrow(
      'Undo would change 1 task that you cannot change, for example “a task that you do not see”. Ask a coordinator.'
    );
    expect(() => undo.undo(changeId, as('Salim'))).toThrow(
      'Only that person or a coordinator can undo this.'
    );
    undo.undo(changeId, coordinator());
    expect(() => undo.undo(changeId, coordinator())).toThrow('This was undone already.');
    expect(() => undo.undo(99_999, coordinator())).toThrow('Nothing to undo.');
  });

  it('take back one’s own word asks for no right over the task', () => {
    const id = add({ ownerId: workspace.people.Meera! });
    const { changeId } = workspace.container.taskActs.comment(
      { personId: workspace.people.Nora!, source: 'person' },
      id,
      'A word'
    );
    workspace.container.undo.undo(changeId, as('Nora'));
    expect(workspace.container.stores.taskParts.comments(id)).toEqual([]);
  });

  it('nobody, after thirty days', async () => {
    const id = add({});
    const { changeId } = edit(id, { priority: 'high' });
    await moveTo('2026-04-04T07:00Z');
    workspace.container.undo.check(changeId, coordinator());
    await moveTo('2026-04-04T07:01Z');
    expect(() => workspace.container.undo.check(changeId, coordinator())).toThrow(
      'This was more than 30 days ago. It can no longer be undone.'
    );
  });
});

describe('what is no task', () => {
  it('an own field that was taken out comes back a week later with its values, and rings by it are planned again', async () => {
    const { container, coordinator } = workspace;
    const { result: field } = container.fields.save(coordinator, {
      ...{ id: null, name: 'Handed over', kind: 'date', choices: [], metByStatusId: null }
    });
    const handed = {
      ...lead(-1, 'day', { time: '10:00', anchor: 'own date' }),
      field: { id: field, end: 'from' }
    };
    ruleOn(workspace, ruleOf([handed as never], { subject: '‹task›' }));
    const [one, two] = [add({ name: 'One' }), add({ name: 'Two' })];
    edit(one, { fields: { [field]: '2026-03-20' } });
    edit(two, { fields: { [field]: '2026-03-24' } });
    await tick();
    const planned = container.stores.plan.all();
    expect(planned).toHaveLength(2);
    const values = () => [one, two].map((id) => container.source.detailsOf(id).own.size);
    const { changeId } = container.fields.drop(coordinator, field);
    await tick();
    expect([values(), container.stores.plan.all()]).toEqual([[0, 0], []]);
    await moveTo('2026-03-12T07:00Z');
    undo(changeId);
    await tick();
    expect([values(), container.stores.plan.all()]).toEqual([[1, 1], planned]);
  });

  it('a message template that was taken out comes back whole', async () => {
    const { container, coordinator } = workspace;
    const { result: id } = container.shared.saveTemplate(coordinator, null, 'Kind', '‹task›', 'Hello');
    const before = container.stores.readers.templates();
    const { changeId } = container.shared.dropTemplate(coordinator, id);
    expect(container.stores.readers.templates()).toHaveLength(before.length - 1);
    await moveTo('2026-03-12T07:00Z');
    undo(changeId);
    expect(container.stores.readers.templates()).toEqual(before);
  });
});
