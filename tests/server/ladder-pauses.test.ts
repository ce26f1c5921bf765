import { describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Tell } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { lead, ruleOn } from '../support/workspace.ts';
import {
  edit,
  eachWithLateWork,
  ladder,
  move,
  promise,
  rung,
  taskId,
  tell,
  told,
  workspace
} from '../support/late-work.ts';

/** What a ladder does before its date, and with what it holds, while it stands still. */
eachWithLateWork();

const STUCK = 4;
const UNDER_WAY = 2;
/** Levels so many days before the date, at 09:00 in Kochi (03:30Z), to the owner. */
const before = (...days: number[]): RuleDefinition => ({
  ...ladder(),
  leads: days.map((n): Lead => ({ ...lead(-n, 'day', { anchor: 'ladder' }), id: `before-${n}` })),
  steps: [tell('owner', { to: [{ who: 'owner' }], subject: '‹task›' })]
});
const notices = () =>
  workspace.container.stores.notices.ofTask(taskId).map(({ leadId, ringAt, state, reason }) => {
    const at = new Date(ringAt).toISOString().slice(5, 16);
    return `${at} ${leadId} ${reason ? `${state}: ${reason}` : state}`;
  });
const foretold = (from: string, until: string) =>
  workspace.container.forecasts
    .messages(Date.parse(from), Date.parse(until))
    .map(
      ({ date, to, subject }) =>
        `${new Date(date).toISOString().slice(5, 16)} ${to[0]!.split('@')[0]}: ${subject}`
    );

describe('levels before the date', () => {
  it('that fall in a pause are not sent, with the reason; the latest is caught up at the next opening after it', async () => {
    ruleOn(workspace, before(3, 2, 1), 'Ahead of it');
    edit({ dueDate: '2026-03-12' });
    // From Sun 8 to Wed 11 March 10:30Z, 16:00 in Kochi: three levels fall in it.
    await move('2026-03-07T10:00:00Z');
    edit({ statusId: STUCK });
    await move('2026-03-11T10:30:00Z');
    expect(await told()).toEqual([]);
    expect(notices()).toEqual([
      '03-09T03:30 before-3 unrung: stuck on others',
      '03-10T03:30 before-2 unrung: stuck on others',
      '03-11T03:30 before-1 unrung: stuck on others'
    ]);
    edit({ statusId: UNDER_WAY });
    await workspace.container.engine.tick();
    const ahead = foretold('2026-03-11T10:30:00Z', '2026-03-13T00:00:00Z');
    await move('2026-03-13T00:00:00Z');
    expect(await told()).toEqual(['03-12T03:30 meera: Renew it']);
    expect(ahead).toEqual(['03-12T03:30 meera: Renew it']);
  });

  it('is said beforehand, where what was acknowledged ends before the date', async () => {
    ruleOn(workspace, before(2), 'Ahead of it');
    edit({ dueDate: '2026-03-12' });
    await move('2026-03-09T05:00:00Z');
    // Until the end of Tuesday in Kochi; the level would be Tuesday 09:00.
    promise(null);
    await workspace.container.engine.tick();
    const ahead = foretold('2026-03-09T05:00:00Z', '2026-03-13T00:00:00Z');
    await move('2026-03-13T00:00:00Z');
    expect([await told(), ahead]).toEqual([['03-11T03:30 meera: Renew it'], ['03-11T03:30 meera: Renew it']]);
  });

  it('not where the pause ends with the date or after it, nor where it was hushed', async () => {
    const ruleId = ruleOn(workspace, before(1), 'Ahead of it');
    edit({ dueDate: '2026-03-10' });
    await move('2026-03-08T05:00:00Z');
    promise('2026-03-10');
    await move('2026-03-12T00:00:00Z');
    expect([await told(), notices()]).toEqual([[], ['03-09T03:30 before-1 unrung: acknowledged']]);
    edit({ dueDate: '2026-03-20' });
    await move('2026-03-18T12:00:00Z');
    const { quiet, source } = workspace.container;
    edit({ statusId: STUCK });
    quiet.hush(workspace.coordinator, { of: 'rule', id: ruleId }, '2026-03-19', source.facts.workspace.zone);
    await move('2026-03-19T08:00:00Z');
    edit({ statusId: UNDER_WAY });
    await move('2026-03-22T00:00:00Z');
    expect(await told()).toEqual([]);
  });

  it('one caught up after the date comes before those that follow it', async () => {
    const levels = before(1);
    const after: Lead = { ...lead(0, 'workhour', { anchor: 'ladder' }), id: 'late' };
    ruleOn(workspace, { ...levels, leads: [...levels.leads, after] }, 'Around it');
    // Due on Saturday 7 March; from Friday until Saturday evening it waits for others.
    edit({ dueDate: '2026-03-07' });
    await move('2026-03-05T14:00:00Z');
    edit({ statusId: STUCK });
    await move('2026-03-07T15:00:00Z');
    edit({ statusId: UNDER_WAY });
    await move('2026-03-09T12:00:00Z');
    expect(notices().slice(1)).toEqual(['03-09T03:30 before-1 unrung: same moment', '03-09T03:30 late sent']);
  });
});

describe('what a ladder holds', () => {
  const held = (): RuleDefinition => {
    const { steps, ...rule } = ladder({ leads: [rung(0), rung(4)] });
    const above = { ...(steps[1] as Tell), leads: ['rung-4'], reach: 'working hours' as const };
    return { ...rule, steps: [steps[0]!, above] };
  };
  const aboveOnly = async () => (await told()).filter((line) => line.includes('ines'));

  it('waits with the clock while the task is stuck, and comes at the first opening after it', async () => {
    ruleOn(workspace, held(), 'Late work');
    // Rung 2 at 07:30Z is held for Ines until 09:00Z.
    await move('2026-03-06T08:00:00Z');
    edit({ statusId: STUCK });
    await move('2026-03-09T10:00:00Z');
    expect([await aboveOnly(), notices().filter((line) => line.endsWith('held'))]).toEqual([
      [],
      ['03-06T07:30 rung-4 held']
    ]);
    expect(foretold('2026-03-09T10:00:00Z', '2026-03-12T00:00:00Z')).toEqual([]);
    edit({ statusId: UNDER_WAY });
    await workspace.container.engine.tick();
    const ahead = foretold('2026-03-09T10:00:00Z', '2026-03-10T10:00:00Z');
    await move('2026-03-10T10:00:00Z');
    // On Monday at 10:00 it goes on: Ines's next opening is Tuesday at 09:00.
    const left = await aboveOnly();
    expect(left.map((line) => line.slice(0, 17))).toEqual(['03-10T09:00 ines:']);
    expect(ahead).toEqual(left);
  });

  it('leaves when it was to leave, where the task goes on before', async () => {
    ruleOn(workspace, held(), 'Late work');
    await move('2026-03-06T08:00:00Z');
    edit({ statusId: STUCK });
    await move('2026-03-06T08:30:00Z');
    edit({ statusId: UNDER_WAY });
    await move('2026-03-06T09:00:00Z');
    expect((await aboveOnly()).map((line) => line.slice(0, 11))).toEqual(['03-06T09:00']);
  });

  it('is withdrawn when it is acknowledged, finished or re-dated meanwhile, and not made up for', async () => {
    ruleOn(workspace, held(), 'Late work');
    await move('2026-03-06T08:00:00Z');
    edit({ statusId: STUCK });
    await move('2026-03-06T08:30:00Z');
    promise('2026-03-09');
    await move('2026-03-06T08:40:00Z');
    edit({ statusId: UNDER_WAY, priority: 'high' });
    await move('2026-03-08T12:00:00Z');
    expect(await aboveOnly()).toEqual([]);
    expect(notices().filter((line) => line.includes('withdrawn'))).toEqual([
      '03-06T07:30 rung-4 withdrawn: acknowledged'
    ]);
  });
});

describe('a hush in the very minute of a ring', () => {
  it('leaves that ring where it was: after what was acknowledged the next one comes to everybody at the opening', async () => {
    const repeat = { n: 4, unit: 'workhour' as const, most: 5 };
    const { steps, ...rule } = ladder({ leads: [rung(0), rung(4, { repeat })] });
    const above = { ...(steps[1] as Tell), leads: ['rung-4'], reach: 'working hours' as const };
    const ruleId = ruleOn(workspace, { ...rule, steps: [steps[0]!, above] }, 'Late work');
    await move('2026-03-06T07:30:00Z');
    const { quiet, source } = workspace.container;
    quiet.hush(workspace.coordinator, { of: 'rule', id: ruleId }, '2026-03-06', source.facts.workspace.zone);
    await move('2026-03-06T08:00:00Z');
    // Until the end of Saturday in Kochi.
    promise(null);
    await move('2026-03-09T10:00:00Z');
    expect((await told()).map((line) => line.slice(0, 17))).toEqual([
      '03-06T03:30 meera',
      '03-06T07:30 meera',
      '03-09T03:30 meera',
      '03-09T09:00 ines:'
    ]);
  });
});
