import { beforeEach, describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Step, Tell } from '../../src/lib/core/rule/step-model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { lead, ruleOf, ruleOn, taskInput } from '../support/workspace.ts';
import {
  FINISHED,
  add,
  at,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  notices,
  on,
  rule,
  step,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/** Undo is true to its word: what it takes back is as if it had never been, but for what has left. Thursday 5 March 2026, 07:00Z. */
eachInAWorkspace();
beforeEach(() => workspace.container.digests.turn(workspace.coordinator, 1, 'off'));

const undo = (changeId: number) =>
  workspace.container.committer.undo(changeId, workspace.people.Ines!).result;
const comment = (id: number) => workspace.container.taskActs.comment(workspace.coordinator, id, 'A word');
const tags = (id: number) => workspace.container.stores.taskParts.tags(id).map(({ name }) => name);
const tagging = (tag: string, id = tag): Step => ({
  ...step(id),
  kind: 'do',
  acts: [{ act: 'add tag', tag }],
  ask: null
});
const twoDays: Step = {
  ...step('wait'),
  kind: 'wait',
  ...{ n: 2, unit: 'day', time: null, closedDay: 'as-is', regardless: true }
};
const asking: Step = {
  ...{ ...step('ask'), kind: 'do', acts: [{ act: 'add tag', tag: 'agreed' }] },
  ask: { question: 'Is that so?', workingDays: 1, otherwise: 'yes' }
};
/** Whoever is told when work of theirs is finished. */
const finished = (steps: Step[]): RuleDefinition => rule([on('finished')], steps, { watch: openToAll() });
const openToAll = () => ({ ...rule([], []).watch, states: ['finished' as const] });

describe('what was made, and is used since,', () => {
  it('stays, and it is said why', () => {
    const { container, coordinator } = workspace;
    const input = {
      name: 'Quay',
      description: '',
      zone: null,
      calendarId: null,
      pinned: false,
      register: false
    };
    const { result: projectId, changeId } = container.projects.add(coordinator, { ...input, state: 'open' });
    const { changeId: later } = container.tasks.add(
      coordinator,
      taskInput({ name: 'On the quay', projectId })
    );
    const undo = (id: number) => container.committer.undo(id, coordinator.personId!);
    expect(() => undo(changeId)).toThrow(expect.objectContaining({ code: 'undo-held' }));
    expect(() => undo(changeId)).toThrow('“Quay” is used by something added later. Remove that first.');
    undo(later);
    undo(changeId);
    expect(container.stores.projects.byId(projectId)).toBeNull();
  });
});

describe('what an undone change set off', () => {
  it('is told to nobody: not at the next opening, not with a digest', async () => {
    ruleOn(workspace, finished([tell('tell', { subject: 'Finished: ‹task›' })]));
    ruleOn(
      workspace,
      finished([tell('folded', { subject: 'Kept: ‹task›', fold: true, noticeKind: 'finished' })])
    );
    const id = add({});
    await tick();
    const { changeId } = edit(id, { statusId: FINISHED });
    await tick();
    expect(notices(id)).toHaveLength(2);
    undo(changeId);
    await tick();
    expect(notices(id)).toEqual(['withdrawn: undone', 'withdrawn: undone']);
    await moveTo('2026-03-10T12:00Z');
    expect(await mail()).toEqual([]);
  });

  it('does not go on after its wait', async () => {
    ruleOn(workspace, finished([twoDays, tagging('gone'), tell('tell', { subject: 'Gone: ‹task›' })]));
    const id = add({});
    await tick();
    const { changeId } = edit(id, { statusId: FINISHED });
    await moveTo('2026-03-06T07:00Z');
    undo(changeId);
    const [run] = workspace.container.stores.runs.ofTask(id, 1);
    expect(run).toMatchObject({ state: 'stopped', outcome: 'undone' });
    await moveTo('2026-03-10T12:00Z');
    expect(tags(id)).toEqual([]);
    expect(await mail()).toEqual([]);
  });

  it('goes back too where it was done after a wait', async () => {
    ruleOn(workspace, finished([tagging('at once'), twoDays, tagging('later')]));
    const id = add({});
    await tick();
    const { changeId } = edit(id, { statusId: FINISHED });
    await moveTo('2026-03-08T12:00Z');
    expect(tags(id)).toEqual(['at once', 'later']);
    undo(changeId);
    expect(tags(id)).toEqual([]);
  });

  it('asks nobody any more', async () => {
    ruleOn(workspace, finished([asking]));
    const id = add({});
    await tick();
    const { changeId } = edit(id, { statusId: FINISHED });
    const { questions } = workspace.container.stores;
    const [question] = questions.openOf(id);
    expect(question).toMatchObject({ text: 'Is that so?' });
    undo(changeId);
    await tick();
    expect(questions.openOf(id)).toEqual([]);
    await moveTo('2026-03-10T12:00Z');
    expect(tags(id)).toEqual([]);
    expect(await mail()).toEqual([]);
  });

  it('of a press by hand goes with the press', async () => {
    const byHand = rule(
      [
        {
          ...on('finished'),
          kind: 'by hand',
          id: 'hand',
          caption: 'Wind up',
          places: ['task', 'list']
        } as never
      ],
      [tagging('wound up'), twoDays, tell('tell', { subject: 'Wound up: ‹task›' })]
    );
    const ruleId = ruleOn(workspace, byHand);
    const ids = [add({}), add({})];
    await tick();
    const { handRings } = workspace.container;
    const { changeId } = handRings.ringOver(workspace.coordinator, ruleId, ids);
    const one = handRings.ring(workspace.coordinator, ruleId, [ids[0]!]);
    await tick();
    undo(one.changeId);
    undo(changeId);
    expect(ids.flatMap(tags)).toEqual([]);
    await moveTo('2026-03-10T12:00Z');
    expect(await mail()).toEqual([]);
  });

  it('that has left is listed, with whom it reached', async () => {
    ruleOn(workspace, finished([tell('tell', { subject: 'Finished: ‹task›' })]));
    ruleOn(workspace, ruleOf([lead(-1, 'day')], { subject: 'Soon: ‹task›' }));
    const id = add({ dueDate: '2026-03-06' });
    await tick();
    const { changeId } = edit(id, { statusId: FINISHED });
    await moveTo('2026-03-05T12:00Z');
    const { left } = undo(changeId);
    expect(left).toMatchObject([
      { readerId: workspace.people.Ines!, subject: 'Finished: Task', leavesAt: at('2026-03-05T09:00Z') }
    ]);
  });
});

describe('what rang since because of what an undone change wrote', () => {
  const twoBefore = () => ruleOn(workspace, ruleOf([lead(-2, 'day')], { subject: '‹task›' }), 'Ahead');
  const startsSoon = () =>
    ruleOn(workspace, ruleOf([lead(-1, 'day', { anchor: 'start' })], { subject: 'Begin ‹task›' }), 'Start');
  const subjects = (left: readonly { subject: string; readerId: number }[]) =>
    left.map(({ subject, readerId }) => [subject, readerId]);

  it('a reminder of a date that it wrote is listed; one that counts from another date is not', async () => {
    twoBefore();
    startsSoon();
    const id = add({ name: 'Gauge', startDate: '2026-03-06', dueDate: '2026-04-20' });
    await tick();
    const { changeId } = edit(id, { dueDate: '2026-03-11' });
    await moveTo('2026-03-09T12:00Z');
    expect((await mail()).length).toBe(2);
    expect(subjects(undo(changeId).left)).toEqual([['Gauge', workspace.people.Ines!]]);
  });

  it('what came to an owner whom it gave a task, about a task that it made, or by a rule that it turned on', async () => {
    const { Meera, Ines } = workspace.people;
    const given = add({ name: 'Given', dueDate: '2026-03-11' });
    add({ name: 'Kept', dueDate: '2026-03-11' });
    twoBefore();
    await tick();
    const gave = edit(given, { ownerId: Meera! });
    const made = workspace.container.tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Made', ownerId: Ines!, dueDate: '2026-03-11' })
    );
    await moveTo('2026-03-09T12:00Z');
    expect(subjects(undo(gave.changeId).left)).toEqual([['Given', Meera]]);
    expect(subjects(undo(made.changeId).left)).toEqual([['Made', Ines]]);
    const on = workspace.container.stores.changes
      .since(0)
      .find(({ id }) =>
        workspace.container.stores.changes
          .rowsOf(id)
          .some(({ table, after }) => table === 'rule' && after?.state === 'on')
      )!;
    const said = subjects(undo(on.id).left).map(([subject]) => subject);
    expect(said).toEqual(expect.arrayContaining(['Kept', 'Given']));
  });

  it('what left after the undo is not because of it', async () => {
    const { Ines } = workspace.people;
    twoBefore();
    const id = add({ name: 'Gauge', dueDate: '2026-03-16' });
    await tick();
    const { changeId } = edit(id, { dueDate: '2026-03-11' });
    await moveTo('2026-03-09T12:00Z');
    const { changeId: undoId } = workspace.container.committer.undo(changeId, Ines!);
    await moveTo('2026-03-14T12:00Z');
    const readers = workspace.container.takenBack.readers(undoId);
    expect([...readers.values()].flat().length).toBe(1);
  });
});

describe('a ring that has passed', () => {
  const atEight = { time: '08:00', zone: { of: 'workspace' as const } };
  const DAYS = ruleOf([lead(-3, 'day', atEight), lead(-2, 'day', atEight)], { subject: '‹task›' });
  /** Everything that brings a task, a date or a rule back, three hours later, and the rings of 08:00 between. */
  const ACTS: [string, (id: number, ruleId: number) => { changeId: number }][] = [
    ['put in the bin', (id) => workspace.container.taskActs.bin(workspace.coordinator, id)],
    ['parked', (id) => workspace.container.taskActs.park(workspace.coordinator, id, null)],
    ['finished', (id) => edit(id, { statusId: FINISHED })],
    ['given another date', (id) => edit(id, { dueDate: '2026-04-20' })],
    ['without its date', (id) => edit(id, { dueDate: null })],
    ['given away', (id) => edit(id, { ownerId: workspace.people.Tess! })],
    ['of a rule that was turned off', (_, ruleId) => turnOff(ruleId)],
    ['of a project that was called off', () => callOff()],
    ['hushed', (id) => hush(id)]
  ];
  const turnOff = (ruleId: number) => workspace.container.rules.turnOff(workspace.coordinator, ruleId);
  const callOff = () => {
    const { projects } = workspace.container;
    const { id: _, ...project } = workspace.container.stores.projects.byId(workspace.project)!;
    return projects.edit(workspace.coordinator, workspace.project, {
      ...project,
      state: 'called off'
    } as never);
  };
  const hush = (id: number) =>
    workspace.container.quiet.hush(
      workspace.coordinator,
      { of: 'task', id },
      '2026-03-09',
      zoneNamed('Europe/Lisbon')
    );

  it.each(ACTS)('%s is not made up for by an undo, nor by a comment after it', async (_, act) => {
    const ruleId = ruleOn(workspace, DAYS);
    const id = add({ dueDate: '2026-03-07', projectId: workspace.project, ownerId: workspace.people.Meera! });
    const early = add({ name: 'Early', dueDate: '2026-03-08', ownerId: workspace.people.Meera! });
    await tick();
    await workspace.container.outbox.drain();
    const before = await mail();
    const { changeId } = act(id, ruleId);
    await moveTo('2026-03-05T10:00Z');
    const meanwhile = (await mail()).filter((line) => !before.includes(line));
    undo(changeId);
    await tick();
    comment(id);
    comment(early);
    await moveTo('2026-03-05T23:00Z');
    expect((await mail()).filter((line) => !before.includes(line))).toEqual(meanwhile);
  });

  it('rings what is ahead all the same', async () => {
    ruleOn(workspace, DAYS);
    const id = add({ dueDate: '2026-03-08', ownerId: workspace.people.Meera! });
    await tick();
    const { changeId } = workspace.container.taskActs.bin(workspace.coordinator, id);
    await moveTo('2026-03-05T10:00Z');
    undo(changeId);
    await moveTo('2026-03-06T12:00Z');
    expect(await mail()).toEqual(['03-06T08:00 meera Task']);
  });

  it('is told to whoever comes to it after the undo, as ever', async () => {
    ruleOn(workspace, DAYS);
    const id = add({ dueDate: '2026-03-08', ownerId: workspace.people.Meera! });
    await moveTo('2026-03-05T08:30Z');
    const { changeId } = edit(id, { priority: 'high' });
    undo(changeId);
    await tick();
    edit(id, { ownerId: workspace.people.Salim! });
    await moveTo('2026-03-05T09:00Z');
    expect(await mail()).toEqual(['03-05T08:00 meera Task', '03-05T08:30 salim Task']);
  });
});

describe('what waited until a change', () => {
  const held: Partial<Tell> = { subject: '‹task›', reach: 'working hours' };

  it('waits again when that is taken back, and leaves at its moment', async () => {
    // 08:00Z is before Nora’s day, which begins at 13:00Z.
    ruleOn(workspace, ruleOf([lead(-1, 'day', { time: '08:00', zone: { of: 'workspace' } })], held));
    const id = add({ dueDate: '2026-03-06', ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T08:30Z');
    expect(notices(id)).toEqual(['held']);
    const { changeId } = edit(id, { statusId: FINISHED });
    await tick();
    expect(notices(id)).toEqual(['withdrawn: outside the Watch']);
    undo(changeId);
    await tick();
    expect(notices(id)).toEqual(['held']);
    await moveTo('2026-03-05T14:00Z');
    expect(await mail()).toEqual(['03-05T13:00 nora Task']);
  });

  it('does not where its moment has passed', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day', { time: '08:00', zone: { of: 'workspace' } })], held));
    const id = add({ dueDate: '2026-03-06', ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T08:30Z');
    const { changeId } = edit(id, { statusId: FINISHED });
    await moveTo('2026-03-05T14:00Z');
    undo(changeId);
    await moveTo('2026-03-05T23:00Z');
    expect(await mail()).toEqual([]);
  });

  it('does not where it was withdrawn for something else that stands', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day', { time: '08:00', zone: { of: 'workspace' } })], held));
    const id = add({ dueDate: '2026-03-06', ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T08:30Z');
    const { changeId } = edit(id, { priority: 'high' });
    edit(id, { statusId: FINISHED });
    await tick();
    undo(changeId);
    await moveTo('2026-03-05T14:00Z');
    expect(await mail()).toEqual([]);
  });

  it('goes on as a run where its rule was turned off and that is taken back', async () => {
    const ruleId = ruleOn(workspace, finished([twoDays, tagging('later')]));
    const id = add({});
    await tick();
    edit(id, { statusId: FINISHED });
    await moveTo('2026-03-06T07:00Z');
    const { changeId } = workspace.container.rules.turnOff(workspace.coordinator, ruleId);
    await tick();
    undo(changeId);
    await moveTo('2026-03-08T12:00Z');
    expect(tags(id)).toEqual(['later']);
  });
});
