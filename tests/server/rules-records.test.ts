import { describe, expect, it } from 'vitest';
import { openWatch, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { lead, ruleOf, ruleOn } from '../support/workspace.ts';
import {
  FINISHED,
  add,
  at,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  notices,
  revise,
  rule,
  step,
  tell,
  tick,
  workspace
} from '../support/rules.ts';

/** What is recorded of rings, by which key, and what is made up for. */
eachInAWorkspace();

describe('records and keys', () => {
  it('a second Tell of a rule is not swallowed by the first', async () => {
    ruleOn(workspace, rule([lead(0, 'day')], [tell('first'), tell('second', { subject: 'Second: ‹task›' })]));
    add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-06T00:00Z');
    expect(await mail()).toEqual(['03-05T09:00 ines Task is due today', '03-05T09:00 ines Second: Task']);
  });

  it('a date that goes away and comes back rings what has not rung and repeats nothing that has', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    const id = add({ dueDate: '2026-03-06' });
    await moveTo('2026-03-05T10:00Z');
    edit(id, { dueDate: '2026-03-20' });
    await tick();
    edit(id, { dueDate: '2026-03-06' });
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due tomorrow',
      '03-06T09:00 ines Task is due today'
    ]);
  });

  it('a lead moved from 08:00 to 10:00 after it rang rings no more', async () => {
    const early = lead(0, 'day', { time: '08:00' });
    const id = ruleOn(workspace, ruleOf([early], { reach: 'any time' }));
    add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T09:00Z');
    revise(id, ruleOf([{ ...early, time: '10:00' }], { reach: 'any time' }));
    await moveTo('2026-03-06T00:00Z');
    expect(await mail()).toEqual(['03-05T08:00 ines Task is due today']);
  });

  it('−5 changed to −2 is a new lead: it rings though the old one has', async () => {
    const id = ruleOn(workspace, ruleOf([lead(-5, 'day')]));
    add({ dueDate: '2026-03-10' });
    await moveTo('2026-03-06T00:00Z');
    revise(id, ruleOf([lead(-2, 'day', { id: '-5day' })]));
    await moveTo('2026-03-10T00:00Z');
    // Sunday the 8th is closed, so it rings earlier.
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due in 5 days',
      '03-06T09:00 ines Task is due in 4 days'
    ]);
  });

  it('reopening is no new round: what has rung stays rung', async () => {
    ruleOn(workspace, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    const id = add({ dueDate: '2026-03-06' });
    await moveTo('2026-03-05T10:00Z');
    edit(id, { statusId: FINISHED });
    await tick();
    edit(id, { statusId: 1 });
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due tomorrow',
      '03-06T09:00 ines Task is due today'
    ]);
  });

  it('a new owner is told once of the same ring, without its acts being done again', async () => {
    ruleOn(
      workspace,
      rule(
        [lead(0, 'day')],
        [tell('tell'), { ...step('note'), kind: 'do', acts: [{ act: 'comment', text: 'rang' }], ask: null }]
      )
    );
    const id = add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T10:00Z');
    edit(id, { ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T20:00Z');
    // 10:00 UTC is before Halifax opens at 13:00.
    expect(await mail()).toEqual([
      '03-05T09:00 ines Task is due today',
      '03-05T13:00 nora Task is due today'
    ]);
    expect(workspace.container.stores.taskParts.comments(id)).toHaveLength(1);
  });
});

describe('the table of past instants', () => {
  const past = (patch: Partial<RuleDefinition['past']>, leads = [lead(-3, 'day'), lead(-1, 'day')]) => {
    const definition = ruleOf(leads);
    return { ...definition, past: { ...definition.past, ...patch } };
  };

  it('turned on: not rung; by choice the latest, at the next opening', async () => {
    add({ dueDate: '2026-03-06' });
    await tick();
    ruleOn(workspace, past({}, [lead(-3, 'day'), lead(-2, 'day')]));
    ruleOn(workspace, past({ turnedOn: 'latest at the next opening' }, [lead(-3, 'day'), lead(-2, 'day')]));
    await moveTo('2026-03-05T23:00Z');
    expect(await mail()).toEqual(['03-05T09:00 ines Task is due tomorrow']);
    expect(notices(1).sort()).toEqual(['sent', 'unrung: overtaken']);
  });

  it('created inside the lead: the latest in hours; at once; or not', async () => {
    await moveTo('2026-03-05T20:00Z');
    for (const created of ['latest', 'at once', 'do not ring'] as const)
      ruleOn(workspace, { ...past({ created }), steps: [tell('tell', { subject: created })] });
    await tick();
    add({ dueDate: '2026-03-06' });
    await moveTo('2026-03-06T12:00Z');
    expect(await mail()).toEqual(['03-05T20:00 ines at once', '03-06T09:00 ines latest']);
  });

  it('moved into the past: as created, never to whoever moved it; or not', async () => {
    ruleOn(workspace, past({}));
    const [mine, theirs] = [
      add({ dueDate: '2026-03-30' }),
      add({ dueDate: '2026-03-30', ownerId: workspace.people.Salim! })
    ];
    await moveTo('2026-03-05T10:00Z');
    for (const id of [mine, theirs]) edit(id, { dueDate: '2026-03-06' });
    await moveTo('2026-03-05T12:00Z');
    expect(await mail()).toEqual(['03-05T10:00 salim Task is due tomorrow']);
    expect(notices(mine)).toEqual(['unrung: overtaken', 'unrung: already told']);
  });

  it('came true later: until that day ends, until use-by, or not', async () => {
    const high = { ...openWatch(), condition: { field: 'priority', op: 'is', value: 'high' } as const };
    for (const cameTrue of ['that day', 'until use-by', 'do not ring'] as const)
      ruleOn(workspace, {
        ...past({ cameTrue }, [lead(-1, 'day')]),
        watch: high,
        steps: [tell('tell', { subject: cameTrue })]
      });
    const [today, later] = [
      add({ name: 'A', dueDate: '2026-03-06' }),
      add({ name: 'B', dueDate: '2026-03-06' })
    ];
    await moveTo('2026-03-05T11:00Z');
    edit(today, { priority: 'high' });
    await moveTo('2026-03-06T10:00Z');
    edit(later, { priority: 'high' });
    await moveTo('2026-03-06T12:00Z');
    expect((await mail()).sort()).toEqual(
      ['03-05T11:00 ines that day', '03-05T11:00 ines until use-by', '03-06T10:00 ines until use-by'].filter(
        (line) => !line.includes('03-05T11:00 ines until')
      )
    );
  });

  it('the server was down: leaves late while it is young; by choice not', async () => {
    ruleOn(workspace, past({}, [lead(-1, 'day')]));
    ruleOn(workspace, {
      ...past({ down: 'do not ring' }, [lead(-1, 'day')]),
      steps: [tell('tell', { subject: 'not this' })]
    });
    const id = add({ dueDate: '2026-03-06' });
    await tick();
    workspace.container.clock.set(at('2026-03-05T13:00Z'), false);
    await tick();
    await workspace.container.outbox.drain();
    expect(await mail()).toEqual(['03-05T13:00 ines Task is due tomorrow']);
    expect(notices(id).sort()).toEqual(['sent', 'unrung: too late']);
  });

  it('hushed and off: never made up', async () => {
    const ruleId = ruleOn(workspace, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    const id = add({ dueDate: '2026-03-06' });
    const { quiet, source } = workspace.container;
    const { changeId: _, result: hush } = quiet.hush(
      workspace.coordinator,
      { of: 'task', id },
      '2026-03-05',
      source.facts.workspace.zone
    );
    await moveTo('2026-03-05T12:00Z');
    quiet.unhush(workspace.coordinator, hush);
    await moveTo('2026-03-05T20:00Z');
    expect(notices(id)).toEqual(['unrung: hushed']);
    workspace.container.rules.turnOff(workspace.coordinator, ruleId);
    await moveTo('2026-03-06T12:00Z');
    revise(ruleId, ruleOf([lead(-1, 'day'), lead(0, 'day')]));
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([]);
  });
});

describe('already told', () => {
  it('two rules in one minute are one message with both reasons; one within the hour after is unrung and names the first', async () => {
    const reach = { reach: 'any time' as const };
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], reach), 'First');
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], reach), 'Second');
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:40' })], reach), 'Third');
    ruleOn(
      workspace,
      ruleOf([lead(0, 'day', { time: '09:50' })], { ...reach, noticeKind: 'escalation' }),
      'Higher'
    );
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:55' })], { ...reach, force: 'urgent' }), 'Urgent');
    const id = add({ dueDate: '2026-03-05' });
    await moveTo('2026-03-05T12:00Z');
    expect((await mail()).map((line) => line.slice(6, 11))).toEqual(['09:00', '09:50', '09:55']);
    const unrung = workspace.container.stores.notices.ofTask(id).filter(({ state }) => state === 'unrung');
    expect(
      unrung.map(({ reason, why }) => [reason, why.find(({ code }) => code === 'already-told')?.params.rule])
    ).toEqual([['already told', 'First']]);
  });
});

describe('what would come too late for the date', () => {
  // An hour before Monday 08:45 is 07:45; Ines opens at 09:00, when the date is over. Her last minute of reach before is Friday 17:00.
  const late = async (ifLate: RuleDefinition['ifLate'], patch: Partial<RuleDefinition> = {}) => {
    ruleOn(workspace, {
      ...ruleOf([lead(-1, 'hour')], { reach: 'working hours', subject: '‹task›' }),
      ifLate,
      ...patch
    });
    const id = add({ dueDate: '2026-03-09', dueTime: '08:45' });
    await tick();
    const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: workspace.people.Ines! };
    const foretold = workspace.container.forecasts
      .ofTask(id, at('2026-03-12T00:00Z'), viewer)
      .map(({ time, why }) => `${time.there} ${why.at(-1) ?? ''}`);
    await moveTo('2026-03-12T00:00Z');
    return { foretold, came: await mail(), ends: notices(id) };
  };

  it('is kept and marked as a late bell', async () => {
    const { came, ends } = await late('keep');
    expect(came).toEqual(['03-09T09:00 ines Task']);
    expect(ends).toEqual(['sent']);
  });

  it('is brought forward to the last minute of reach before its ring instant', async () => {
    const { came, ends, foretold } = await late('forward');
    expect(came).toEqual(['03-06T17:00 ines Task']);
    expect(ends).toEqual(['sent']);
    expect(foretold).toEqual([expect.stringMatching(/^Fri 6 Mar, 17:00 .*sent earlier, on/)]);
  });

  it('is brought forward before a leave, and kept where that minute is gone', async () => {
    const { people, coordinator, container } = workspace;
    container.people.addLeave(coordinator, people.Ines!, {
      ...{
        fromDate: '2026-03-06',
        fromTime: null,
        untilDate: '2026-03-06',
        untilTime: null,
        standInId: null
      },
      note: ''
    });
    const { came } = await late('forward');
    expect(came).toEqual(['03-05T17:00 ines Task']);
    // Sunday: every minute of reach before Monday 07:45 is over.
    await moveTo('2026-03-15T12:00Z');
    add({ name: 'New', dueDate: '2026-03-16', dueTime: '08:45' });
    await moveTo('2026-03-17T00:00Z');
    expect((await mail()).slice(1)).toEqual(['03-16T09:00 ines New']);
  });

  it('rings at its own time outside reach', async () => {
    const { came } = await late('ring-anyway');
    expect(came).toEqual(['03-09T07:45 ines Task']);
  });

  it('does not ring', async () => {
    const { came, ends } = await late('skip');
    expect(came).toEqual([]);
    expect(ends).toEqual(['unrung: too late']);
  });

  it('is decided anew where a day’s most would carry it past the date', async () => {
    const { people, coordinator, container } = workspace;
    const nothing = { quiet: [], digestDue: null, digestOverdue: null };
    container.people.setQuiet(coordinator, people.Ines!, { ...nothing, dailyCap: 1 });
    const two = async (ifLate: RuleDefinition['ifLate']) => {
      const id = ruleOn(workspace, { ...ruleOf([lead(0, 'day')], { subject: '‹task›' }), ifLate });
      add({ name: 'First', dueDate: '2026-03-05', priority: 'pressing' });
      add({ name: 'Second', dueDate: '2026-03-05' });
      await moveTo('2026-03-06T23:00Z');
      container.rules.turnOff(coordinator, id);
      return mail();
    };
    expect(await two('skip')).toEqual(['03-05T09:00 ines First']);
  });

  it('and where it rings anyway, each message leaves by itself, above the day’s most', async () => {
    const { people, coordinator, container } = workspace;
    const nothing = { quiet: [], digestDue: '08:00', digestOverdue: null };
    container.people.setQuiet(coordinator, people.Ines!, { ...nothing, dailyCap: 1 });
    // Her own digest is another matter.
    container.digests.turn(coordinator, 1, 'off');
    ruleOn(workspace, {
      ...ruleOf([lead(0, 'day')], { gather: 'per task', subject: '‹task›' }),
      ifLate: 'ring-anyway'
    });
    for (const name of ['First', 'Second', 'Third']) add({ name, dueDate: '2026-03-05' });
    await moveTo('2026-03-06T23:00Z');
    expect(await mail()).toEqual(['First', 'Second', 'Third'].map((name) => `03-05T09:00 ines ${name}`));
  });
});
