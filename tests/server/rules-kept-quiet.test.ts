import { describe, expect, it } from 'vitest';
import { NO_STOP, openWatch } from '../../src/lib/core/rule/model.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import { whyText } from '../../src/lib/core/ring/why-text.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { lead, received, ruleOf, ruleOn } from '../support/workspace.ts';
import {
  add,
  at,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  notices,
  rule,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/** What ends a rule, keeps it quiet or holds it back. */
eachInAWorkspace();

describe('stop, hush, snooze and own choices', () => {
  it('ends after enough notices, on a day, and once a condition holds', async () => {
    const daily = lead(1, 'workday', { repeat: { n: 1, unit: 'workday', most: 9 } });
    ruleOn(workspace, { ...ruleOf([daily], { subject: 'two' }), stop: { ...NO_STOP, afterNotices: 2 } });
    ruleOn(workspace, {
      ...ruleOf([daily], { subject: 'until', noticeKind: 'escalation' }),
      stop: { ...NO_STOP, until: '2026-03-06' }
    });
    ruleOn(workspace, {
      ...ruleOf([daily], { subject: 'percent', noticeKind: 'finished' }),
      stop: { ...NO_STOP, condition: { field: 'percent', op: 'at least', value: 50 } }
    });
    const id = add({ dueDate: '2026-03-04' });
    await moveTo('2026-03-09T12:00Z');
    edit(id, { percent: 60 });
    await moveTo('2026-03-13T00:00Z');
    const count = (word: string) =>
      workspace.container.forecasts &&
      mail().then((lines) => lines.filter((line) => line.endsWith(word)).length);
    expect(await Promise.all(['two', 'until', 'percent'].map(count))).toEqual([2, 2, 3]);
  });

  it('a person’s own “no reminder” wins, unless the rule is a must; snoozed it comes again', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')], { subject: 'plain' }));
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '11:00' })], { subject: 'must', force: 'must' }));
    const id = add({ dueDate: '2026-03-05' });
    const { quiet, stores } = workspace.container;
    quiet.setReminded(workspace.coordinator, id, workspace.people.Ines!, false);
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual(['03-05T11:00 ines must']);
    const sent = stores.notices.ofTask(id).find(({ state }) => state === 'sent')!;
    expect(quiet.snooze(workspace.coordinator, sent.id, at('2026-03-05T22:00Z'))).toEqual({
      leavesAt: at('2026-03-06T09:00Z'),
      pastDue: true
    });
    await moveTo('2026-03-06T12:00Z');
    // It passes reach again: 22:00 is held to 09:00.
    expect(await mail()).toEqual(['03-05T11:00 ines must', '03-06T09:00 ines must']);
    const again = stores.notices.ofTask(id).find(({ snooze }) => snooze === 1)!;
    expect(again.why.map(whyText)).toContain(
      'Ines snoozed it until Thursday 5 March 2026 at 22:00 in Lisbon.'
    );
  });

  it('a snooze that is taken back does not come again, and can be put off anew', async () => {
    ruleOn(workspace, ruleOf([lead(0, 'day')], { subject: 'plain' }));
    const id = add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T12:00Z');
    const { quiet, stores } = workspace.container;
    const [sent] = stores.notices.ofTask(id);
    quiet.snooze(workspace.coordinator, sent!.id, at('2026-03-06T10:00Z'));
    const nora = { personId: workspace.people.Nora!, source: 'person' as const };
    expect(() => quiet.unsnooze(nora, sent!.id, id)).toThrow('This snooze has ended already.');
    quiet.unsnooze(workspace.coordinator, sent!.id, id);
    expect(() => quiet.unsnooze(workspace.coordinator, sent!.id, id)).toThrow(
      'This snooze has ended already.'
    );
    await moveTo('2026-03-06T12:00Z');
    expect(await mail()).toEqual(['03-05T09:00 ines plain']);
    quiet.snooze(workspace.coordinator, sent!.id, at('2026-03-06T15:00Z'));
    await moveTo('2026-03-06T16:00Z');
    expect(await mail()).toEqual(['03-05T09:00 ines plain', '03-06T15:00 ines plain']);
    expect(() => quiet.unsnooze(workspace.coordinator, sent!.id, id)).toThrow(
      'This snooze has ended already.'
    );
  });

  it.each([
    ['begins in it: nothing of it comes, then or later', '2026-03-05T07:00Z', []],
    ['waits into it: what came before the wait stays alone', '2026-03-05T10:00Z', ['03-05T09:00 ines first']]
  ])('a rule that is hushed and %s, as the forecast says', async (_, hushedAt, told) => {
    const wait: Step = {
      ...{ id: 'wait', kind: 'wait', name: '', description: '', leads: null, n: 1, unit: 'day' },
      ...{ time: '10:00', closedDay: 'as-is', regardless: true }
    };
    const later = tell('then', { subject: 'then' });
    const steps = [tell('first', { subject: 'first' }), wait, { ...later, to: [{ who: 'owner' as const }] }];
    const ruleId = ruleOn(workspace, rule([lead(0, 'day')], steps));
    add({ dueDate: '2026-03-05' });
    await moveTo(hushedAt);
    const { quiet, forecasts } = workspace.container;
    const lisbon = zoneNamed('Europe/Lisbon');
    // Over when the wait is over, where the rule begins in it; not yet, where it waits into it.
    const until = told.length === 0 ? '2026-03-05' : '2026-03-06';
    quiet.hush(workspace.coordinator, { of: 'rule', id: ruleId }, until, lisbon);
    await tick();
    const foretold = forecasts.messages(at(hushedAt), at('2026-03-09T00:00Z'));
    await moveTo('2026-03-09T00:00Z');
    expect([await mail(), foretold.map(({ subject }) => subject)]).toEqual([told, []]);
  });

  it('disabled with one sent and two pending: two are withdrawn, one stays', async () => {
    const id = ruleOn(workspace, ruleOf([lead(0, 'day'), lead(0, 'hour', { id: 'late' })]));
    const { people } = workspace;
    const sent = add({ dueDate: '2026-03-05' });
    const pending = [people.Salim!, people.Tess!].map((ownerId) =>
      add({ ownerId, dueDate: '2026-03-05', dueTime: '21:00' })
    );
    await moveTo('2026-03-05T19:00Z');
    workspace.container.rules.turnOff(workspace.coordinator, id);
    await moveTo('2026-03-07T00:00Z');
    expect(notices(sent)).toEqual(['sent']);
    expect(pending.flatMap(notices).filter((state) => state.startsWith('withdrawn')).length).toBeGreaterThan(
      0
    );
  });
});

describe('rushes and faulty rules', () => {
  it('a rule about to send far more than was foreseen stops and asks; then it sends, gathers, or does not ring', async () => {
    const ruleId = ruleOn(workspace, ruleOf([lead(-1, 'day')]));
    await tick();
    for (let i = 0; i < 60; i++) add({ name: `T${i}`, dueDate: '2026-03-06' });
    await moveTo('2026-03-05T10:00Z');
    const { stores, handRings } = workspace.container;
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual([
      '“Rule” was about to send 60 messages'
    ]);
    const [rush] = stores.rushes.open();
    expect([rush!.ruleId, rush!.count, rush!.expected]).toEqual([ruleId, 60, 0]);
    handRings.answerRush(workspace.coordinator, rush!.id, 'gather');
    await tick();
    await workspace.container.outbox.drain();
    expect((await mail()).at(-1)).toContain('03-05T10:00 ines 60 notices: T0 is due tomorrow and 59 more');
    expect(() => handRings.answerRush(workspace.coordinator, rush!.id, 'send')).toThrow(
      expect.objectContaining({ code: 'rush-answered' })
    );
  });

  it('a rule that names something gone does not ring, its keeper is told, and undo brings it back', async () => {
    const { fields, stores, committer, watchman } = workspace.container;
    const { result: field } = fields.save(workspace.coordinator, {
      id: null,
      name: 'Berth',
      kind: 'text',
      choices: [],
      metByStatusId: null
    });
    const watch = { ...openWatch(), condition: { field: { own: field }, op: 'is empty' } as const };
    const ruleId = ruleOn(workspace, { ...ruleOf([lead(0, 'day')]), watch }, 'Berths');
    expect(watchman.namedBy({ field: () => null }).map(({ name }) => name)).toEqual(['Berths']);
    add({ dueDate: '2026-03-05' });
    const { changeId } = fields.drop(workspace.coordinator, field);
    expect([stores.rules.byId(ruleId)?.state, stores.rules.byId(ruleId)?.fault]).toEqual([
      'faulty',
      expect.stringContaining('a field')
    ]);
    await moveTo('2026-03-05T12:00Z');
    expect((await received(workspace)).map(({ subject }) => subject)).toEqual(['“Berths” has stopped']);
    committer.undo(changeId, workspace.people.Ines!);
    expect(stores.rules.byId(ruleId)?.state).toBe('on');
  });
});
