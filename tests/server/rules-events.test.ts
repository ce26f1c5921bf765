import { describe, expect, it } from 'vitest';
import { openWatch, blankDefinition } from '../../src/lib/core/rule/model.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import { lead, received, ruleOf, ruleOn, taskInput } from '../support/workspace.ts';
import {
  FINISHED,
  add,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  on,
  rule,
  step,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/** Rules that listen to what happens, and what comes in from people. */
eachInAWorkspace();

describe('events and chains', () => {
  it('ring in the transaction of the change; an undo takes back what rules did because of it', async () => {
    ruleOn(
      workspace,
      rule(
        [on('finished')],
        [
          { ...step('tag'), kind: 'do', acts: [{ act: 'add tag', tag: 'done' }], ask: null },
          tell('tell', { subject: 'Done: ‹task›' })
        ]
      )
    );
    const id = add({});
    await tick();
    const { changeId } = edit(id, { statusId: FINISHED });
    const { stores, committer } = workspace.container;
    expect(stores.taskParts.tags(id).map(({ name }) => name)).toEqual(['done']);
    committer.undo(changeId, workspace.people.Ines!);
    expect(stores.taskParts.tags(id)).toEqual([]);
    expect(stores.tasks.byId(id)?.phase).toBe('waiting to start');
  });

  it('are not heard from an import or a change of more than 25, unless the lead says so; never from an undo', async () => {
    ruleOn(workspace, rule([on('created')], [tell('few', { subject: 'few' })]));
    ruleOn(
      workspace,
      rule([on('created', { wide: true })], [tell('all', { subject: 'all', noticeKind: 'assigned' })])
    );
    await tick();
    const { committer, tasks } = workspace.container;
    const { changeId } = committer.commit(
      { personId: workspace.people.Ines!, source: 'import' },
      'import',
      (writer) => tasks.insert(writer, taskInput({ ownerId: workspace.people.Ines! }))
    );
    committer.undo(changeId, workspace.people.Ines!);
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual([]);
    add({});
    await moveTo('2026-03-05T14:00Z');
    expect((await mail()).map((line) => line.slice(-3)).sort()).toEqual(['all', 'few']);
  });

  it('two rules that set each other off are cut, what was done stays, and the keeper is told with the path', async () => {
    const flip = (from: 'low' | 'high', to: 'low' | 'high') =>
      rule(
        [on('field changed', { id: from, field: 'priority', to: [from] })],
        [{ ...step(to), kind: 'do', acts: [{ act: 'set priority', priority: to }], ask: null }]
      );
    ruleOn(workspace, flip('high', 'low'), 'Down');
    ruleOn(workspace, flip('low', 'high'), 'Up');
    const id = add({});
    await tick();
    edit(id, { priority: 'high' });
    await moveTo('2026-03-05T08:00Z');
    const { stores } = workspace.container;
    expect(stores.tasks.byId(id)?.priority).toBe('high');
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual(['“Down” was stopped']);
    expect(stores.taskParts.record(id, 20).filter(({ source }) => source === 'rule')).toHaveLength(2);
  });

  it('a rule that moves the date it counts from rings itself three times for a task and no more', async () => {
    const steps: Step[] = [
      {
        ...step('on'),
        kind: 'do',
        acts: [{ act: 'set due', date: { from: 'due', n: 1, unit: 'day' }, time: null }],
        ask: null
      }
    ];
    ruleOn(workspace, rule([lead(0, 'day', { closedDay: 'as-is' })], steps));
    const id = add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-20T00:00Z');
    expect(workspace.container.stores.tasks.byId(id)?.due?.date).toBe('2026-03-08');
    expect(workspace.container.stores.tasks.byId(id)?.slips).toBe(3);
  });

  it('a rule that rings itself cannot be turned on', () => {
    const { rules } = workspace.container;
    const { result: id } = rules.add(workspace.coordinator, 'Self', blankDefinition());
    const definition = rule(
      [lead(0, 'day')],
      [{ ...step('again'), kind: 'do', acts: [{ act: 'ring another', ruleId: id }], ask: null }]
    );
    expect(rules.faults({ name: 'Self', description: '', definition }, id).map(({ code }) => code)).toEqual([
      'rule-rings-itself'
    ]);
  });
});

describe('what comes in from people', () => {
  it('titles with HTML and line breaks are escaped, and headers stay one line', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')], { gather: 'per recipient' }));
    const name = '<script>alert(1)</script>\r\nBcc: all@test.example';
    add({ name, dueDate: '2026-03-05' });
    add({ name: '<b>two</b>', dueDate: '2026-03-05' });
    await moveTo('2026-03-05T12:00Z');
    const [message] = await received(workspace);
    const { html } = (await workspace.container.postRoom.message(message!.id)) as { html: string };
    expect(message!.to).toEqual(['ines@test.example']);
    expect(html).not.toContain('<script>');
    expect(html).not.toContain('<b>two');
  });

  it('a condition of 200 tests and a body of 100 kB are taken, one more is refused at its part', () => {
    const { rules } = workspace.container;
    const tests = (count: number) => ({
      all: Array.from({ length: count }, () => ({ field: 'name', op: 'contains', value: 'x' }) as const)
    });
    const of = (count: number) => ({
      ...ruleOf([lead(0, 'day')], { body: 'x'.repeat(100_000) }),
      watch: { ...openWatch(), condition: tests(count) }
    });
    expect(rules.faults({ name: 'Large', description: '', definition: of(200) })).toEqual([]);
    expect(rules.faults({ name: 'Large', description: '', definition: of(201) })).toMatchObject([
      { part: 'watch', code: 'rule-too-many-tests' }
    ]);
  });

  it('outside people are told of name, date and project, and nothing else is let through', async () => {
    const { rules } = workspace.container;
    const outside = { to: [{ who: 'address' as const, address: 'Harbour@Supplier.example ' }] };
    const faults = (patch: object) =>
      rules
        .faults({
          name: 'Out',
          description: '',
          definition: ruleOf([lead(0, 'day')], { ...outside, ...patch })
        })
        .map(({ code }) => code);
    expect(faults({})).toEqual(['rule-outside-field']);
    expect(faults({ body: '‹task› on ‹due›', gather: 'per recipient' })).toEqual(['rule-outside-table']);
    expect(faults({ body: '‹task›', gather: 'together', to: [...outside.to, { who: 'owner' }] })).toEqual([
      'rule-outside-together'
    ]);
    ruleOn(
      workspace,
      ruleOf([lead(0, 'day')], { ...outside, subject: '‹task›', body: '‹task› in ‹project›: ‹due›' })
    );
    add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T12:00Z');
    const [message] = await received(workspace);
    expect(message!.to).toEqual(['harbour@supplier.example']);
    const { text } = (await workspace.container.postRoom.message(message!.id)) as { text: string };
    expect(text).not.toContain('/tasks/');
  });
});
