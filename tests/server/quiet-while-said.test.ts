import { describe, expect, it } from 'vitest';
import { blankDefinition, NO_STOP, type RuleDefinition, type Stop } from '../../src/lib/core/rule/model.ts';
import { whyText } from '../../src/lib/core/ring/why-text.ts';
import { lead, ruleOn } from '../support/workspace.ts';
import {
  edit,
  eachWithLateWork,
  move,
  promise,
  taskId,
  tell,
  told,
  workspace
} from '../support/late-work.ts';

/** What is said of late work keeps its repeats from whoever said it, and from nobody else. */
eachWithLateWork();

/** Every working day at 10:00 from the due day on, to the owner and whoever manages them. */
function daily(quiet: Partial<Stop['quiet']> = {}, patch: Partial<RuleDefinition> = {}): RuleDefinition {
  return {
    ...blankDefinition(),
    leads: [lead(1, 'workday', { time: '10:00', repeat: { n: 1, unit: 'workday', most: 9 } })],
    steps: [tell('both', { to: [{ who: 'owner' }, { who: 'manager', up: 1 }], subject: 'Late: ‹task›' })],
    inOrder: false,
    stop: { ...NO_STOP, quiet: { ...NO_STOP.quiet, ...quiet } },
    ...patch
  };
}

const days = async (name: string) =>
  (await told()).filter((line) => line.includes(` ${name}:`)).map((line) => line.slice(0, 5));
const unrung = () =>
  workspace.container.stores.notices
    .ofTask(taskId)
    .filter(({ state }) => state === 'unrung')
    .map(({ reason, why }) => `${reason}: ${whyText(why.at(-1)!)}`);

describe('acknowledged or promised', () => {
  it('keeps overdue repeats from whoever said it until the promise, and never from the manager', async () => {
    ruleOn(workspace, daily(), 'Late');
    await move('2026-03-06T08:00:00Z');
    promise('2026-03-07');
    await move('2026-03-09T12:00:00Z');
    expect(await days('meera')).toEqual(['03-06', '03-09']);
    expect(await days('ines')).toEqual(['03-06', '03-07', '03-09']);
    expect(unrung()).toEqual([
      'acknowledged: Meera acknowledged the task and gets no notice until Sunday 8 March 2026 at 00:00 in Kolkata.'
    ]);
  });

  it('without a date until the end of the next working day', async () => {
    ruleOn(workspace, daily(), 'Late');
    await move('2026-03-06T08:00:00Z');
    promise(null);
    await move('2026-03-10T12:00:00Z');
    expect(await days('meera')).toEqual(['03-06', '03-09', '03-10']);
  });

  it('rings all the same where the rule says so, and where it is a rule of before', async () => {
    const { quiet: _, ...stopOfBefore } = NO_STOP;
    ruleOn(workspace, daily({ acknowledged: 'nothing' }), 'New');
    ruleOn(workspace, { ...daily(), stop: stopOfBefore as Stop }, 'Of before');
    await move('2026-03-06T08:00:00Z');
    promise('2026-03-07');
    await move('2026-03-07T12:00:00Z');
    // Both rules say the same of one kind within the hour: one message, by either.
    expect(await days('meera')).toEqual(['03-06', '03-07']);
  });

  it('leaves reminders alone unless the rule says everything', async () => {
    const late = [lead(1, 'workday', { time: '10:00', repeat: { n: 1, unit: 'workday', most: 9 } })];
    const reminding = tell('both', {
      to: [{ who: 'owner' }],
      subject: 'Late: ‹task›',
      noticeKind: 'reminder'
    });
    ruleOn(workspace, daily({}, { leads: late, steps: [reminding] }), 'Reminder');
    ruleOn(
      workspace,
      daily(
        { acknowledged: 'everything' },
        { steps: [{ ...reminding, noticeKind: 'question', subject: 'All' }] }
      ),
      'All'
    );
    await move('2026-03-06T08:00:00Z');
    promise('2026-03-07');
    await move('2026-03-07T12:00:00Z');
    const saturday = (await told()).filter((line) => line.startsWith('03-07'));
    expect(saturday).toEqual(['03-07T04:30 meera: Late: Renew it']);
  });

  it('of a schedule that looks at what is late: it is of kind overdue', async () => {
    const overdue = { field: 'overdue', op: 'is yes' } as const;
    const leads = [
      {
        ...{ kind: 'schedule' as const, id: 'w', on: true, only: null, oncePerDate: false },
        ...{ zone: { of: 'named' as const, zone: 'Asia/Kolkata' }, rrule: 'FREQ=DAILY', start: '2026-03-01' },
        ...{ time: '10:00', closedDay: 'as-is' as const }
      }
    ];
    const watch = { ...blankDefinition().watch, condition: overdue };
    ruleOn(workspace, daily({}, { leads, watch }), 'Every day');
    await move('2026-03-06T08:00:00Z');
    promise('2026-03-07');
    await move('2026-03-07T12:00:00Z');
    expect(await days('meera')).toEqual(['03-06']);
    expect(await days('ines')).toEqual(['03-06', '03-07']);
    const kinds = workspace.container.stores.notices.ofTask(taskId).map(({ kind }) => kind);
    expect(new Set(kinds)).toEqual(new Set(['overdue']));
  });

  it('makes nothing up for what was kept back, whatever is edited after it', async () => {
    ruleOn(workspace, daily(), 'Late');
    await move('2026-03-06T08:00:00Z');
    promise('2026-03-07');
    await move('2026-03-07T18:45:00Z');
    edit({ name: 'Renew it now' });
    await move('2026-03-09T04:00:00Z');
    expect(await days('meera')).toEqual(['03-06']);
  });
});

describe('stuck on others', () => {
  it('keeps overdue repeats from the owner alone, and they go on once it is not', async () => {
    ruleOn(workspace, daily(), 'Late');
    await move('2026-03-06T08:00:00Z');
    edit({ statusId: 4 });
    await move('2026-03-09T12:00:00Z');
    edit({ statusId: 2 });
    await move('2026-03-10T12:00:00Z');
    expect(await days('meera')).toEqual(['03-06', '03-10']);
    expect(await days('ines')).toEqual(['03-06', '03-07', '03-09', '03-10']);
  });

  it('what rang before is not sent while it is stuck when it leaves', async () => {
    const held = daily();
    held.leads = [lead(1, 'workday', { time: '06:00' })];
    held.steps = [tell('one', { to: [{ who: 'owner' }], subject: 'Late: ‹task›', reach: 'working hours' })];
    ruleOn(workspace, held, 'Late');
    await move('2026-03-06T01:00:00Z');
    edit({ statusId: 4 });
    await move('2026-03-06T12:00:00Z');
    expect(await days('meera')).toEqual([]);
    expect(unrung()).toEqual(['stuck on others: The task is stuck on others, so Meera gets no notice.']);
  });
});

it('the forecast says the same beforehand', async () => {
  ruleOn(workspace, daily(), 'Late');
  await move('2026-03-06T08:00:00Z');
  promise('2026-03-07');
  const { container } = workspace;
  const now = container.clock.now();
  const foretold = container.forecasts
    .notices(now, Date.parse('2026-03-09T12:00:00Z'))
    .filter(({ taskId: id }) => id === taskId);
  const before = [...foretold].map(({ recipientId, leavesAt, ringAt, unrung: reason }) =>
    reason ? `${recipientId} ${reason} ${ringAt}` : `${recipientId} ${leavesAt}`
  );
  await move('2026-03-09T12:00:00Z');
  const after = container.stores.notices
    .ofTask(taskId)
    .filter(({ ringAt }) => ringAt > now)
    .map(({ recipientId, leavesAt, ringAt, reason }) =>
      reason ? `${recipientId} ${reason} ${ringAt}` : `${recipientId} ${leavesAt}`
    );
  expect(before.sort()).toEqual(after.sort());
  expect(after.filter((line) => line.includes('acknowledged'))).toHaveLength(1);
});
