import { describe, expect, it } from 'vitest';
import type { Tell } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { ESCALATIONS_ONLY } from '../../src/lib/view/escalations.ts';
import { lead, ruleOn, taskInput } from '../support/workspace.ts';
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

/** Ladders in the engine. */
eachWithLateWork();

describe('a late task', () => {
  it('climbs rung by rung, is acknowledged, pauses, breaks its promise, climbs, and falls silent when it is finished', async () => {
    ruleOn(workspace, ladder(), 'Late work');
    await move('2026-03-06T08:00:00Z');
    expect(await told()).toEqual(
      [
        '03-06T03:30 meera: Yours: Renew it is overdue since Thursday',
        '03-06T07:30 ines: Your people’s: Renew it is overdue since Thursday',
        '03-06T07:30 meera: Yours: Renew it is overdue since Thursday'
      ].map((line) => line.replace('overdue since Thursday', '1 working day overdue'))
    );
    // Fri 13:30 in Kochi: seen, and promised for Saturday. The third rung, at 17:00, does not come.
    promise('2026-03-07');
    await move('2026-03-07T18:00:00Z');
    expect(await told()).toHaveLength(3);
    // Saturday has ended and nothing was done: on Monday the next rung comes when Meera's day opens.
    await move('2026-03-09T04:00:00Z');
    expect((await told()).slice(3)).toEqual([
      '03-09T03:30 ines: Your people’s: Renew it is 3 working days overdue',
      '03-09T03:30 meera: Yours: Renew it is 3 working days overdue'
    ]);
    edit({ statusId: 3 });
    await move('2026-03-20T12:00:00Z');
    expect((await told()).filter((line) => / Renew it/.test(line) && !/Talk about/.test(line))).toHaveLength(
      5
    );
  });

  it('makes its follow-up once, whatever becomes of the task', async () => {
    ruleOn(workspace, ladder(), 'Late work');
    await move('2026-03-06T12:00:00Z');
    edit({ ownerId: workspace.people.Salim! });
    await move('2026-03-12T12:00:00Z');
    const names = workspace.container.stores.tasks.facts().map(({ name }) => name);
    expect(names.filter((name) => name.startsWith('Talk about'))).toEqual(['Talk about Renew it']);
  });

  it('starts again at the first rung for a new owner; whoever stands above is told again only higher up', async () => {
    ruleOn(workspace, ladder(), 'Late work');
    await move('2026-03-06T08:00:00Z');
    // Fri 08:00Z: it comes to Salim in Muscat, whose week ended on Thursday. He works from Sunday 08:00 (04:00Z).
    edit({ ownerId: workspace.people.Salim! });
    await move('2026-03-08T13:00:00Z');
    expect((await told()).slice(3)).toEqual([
      '03-08T04:00 salim: Yours: Renew it is 1 working day overdue',
      '03-08T08:00 salim: Yours: Renew it is 1 working day overdue',
      '03-08T12:00 ines: Your people’s: Renew it is 1 working day overdue',
      '03-08T12:00 salim: Yours: Renew it is 1 working day overdue'
    ]);
  });

  it('goes on where it stood when it is reopened, or others are done with it', async () => {
    ruleOn(workspace, ladder(), 'Late work');
    await move('2026-03-06T05:30:00Z');
    edit({ statusId: 4 });
    await move('2026-03-09T05:00:00Z');
    expect(await told()).toHaveLength(1);
    // Two hours were over; the second rung comes two hours after Mon 10:30 in Kochi.
    edit({ statusId: 2 });
    await move('2026-03-09T08:00:00Z');
    expect((await told()).slice(1).map((line) => line.slice(0, 11))).toEqual(['03-09T07:00', '03-09T07:00']);
    edit({ statusId: 3 });
    await move('2026-03-10T08:00:00Z');
    edit({ statusId: 2 });
    await move('2026-03-10T12:30:00Z');
    expect((await told()).slice(3).map((line) => line.slice(0, 11))).toEqual(['03-10T11:00', '03-10T11:00']);
  });

  it('a rung that has rung stays rung when the priority changes; the next takes the new timing', async () => {
    const pressing = { priorities: ['pressing' as const], tags: [], groups: [] };
    const leads = [
      rung(0),
      rung(4, { instead: [{ only: pressing, n: 1, unit: 'workhour' }] }),
      rung(8, { instead: [{ only: pressing, n: 5, unit: 'workhour' }] })
    ];
    ruleOn(workspace, ladder({ leads }), 'Late work');
    await move('2026-03-06T07:45:00Z');
    edit({ priority: 'pressing' });
    await move('2026-03-06T12:30:00Z');
    expect((await told()).filter((line) => line.includes('meera')).map((line) => line.slice(0, 11))).toEqual([
      '03-06T03:30',
      '03-06T07:30',
      '03-06T08:30'
    ]);
  });

  it('what is on its way to somebody is withdrawn when it is acknowledged', async () => {
    const reached = ladder();
    (reached.steps[1] as Tell).reach = 'working hours';
    ruleOn(workspace, reached, 'Late work');
    // 07:30Z is 07:30 in Lisbon: held until 09:00 there.
    await move('2026-03-06T08:00:00Z');
    promise(null);
    await move('2026-03-06T12:00:00Z');
    expect((await told()).filter((line) => line.includes('ines'))).toEqual([]);
    const [held] = workspace.container.stores.notices
      .ofTask(taskId)
      .filter(({ state }) => state === 'withdrawn');
    expect(held?.reason).toBe('acknowledged');
  });

  it('born late it starts at the first rung', async () => {
    ruleOn(workspace, ladder(), 'Late work');
    await move('2026-03-06T05:00:00Z');
    const { result } = workspace.container.tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Old one', ownerId: workspace.people.Meera!, dueDate: '2026-02-20' })
    );
    await move('2026-03-06T12:30:00Z');
    const mine = workspace.container.stores.notices.ofTask(result).filter(({ state }) => state === 'sent');
    expect(mine.map(({ ringAt }) => new Date(ringAt).toISOString().slice(5, 16))).toEqual([
      '03-06T05:00',
      '03-06T09:00',
      '03-06T09:00'
    ]);
  });
});

describe('who is told above', () => {
  it('in a circle of managers the next other person; for the one above all, nobody', async () => {
    const { container, people } = workspace;
    container.committer.commit({ personId: null, source: 'import' }, 'a circle', (writer) => {
      writer.update('person', people.Meera!, { manager_id: people.Salim! });
      writer.update('person', people.Salim!, { manager_id: people.Meera! });
    });
    ruleOn(workspace, ladder(), 'Late work');
    await move('2026-03-06T08:00:00Z');
    expect(
      (await told()).filter((line) => line.includes('people’s')).map((line) => line.slice(12, 17))
    ).toEqual(['salim']);
    expect(container.escalations.view({}, viewer()).circles).toEqual([['Meera', 'Salim']]);
    edit({ ownerId: people.Ines! });
    container.committer.commit({ personId: null, source: 'import' }, 'alone', (writer) =>
      writer.update('person', people.Ines!, { manager_id: null })
    );
    await move('2026-03-06T20:00:00Z');
    expect((await told()).filter((line) => line.includes('people’s') && line.includes('ines'))).toEqual([]);
    expect(container.escalations.view({}, viewer()).rows[0]).toMatchObject({ escalatesTo: null });
    for (const only of ESCALATIONS_ONLY)
      expect([only, container.escalations.view({ only }, viewer()).rows.length]).toEqual([
        only,
        only === 'still' ? 0 : 1
      ]);
  });

  it('one who stands there for two levels, as nobody else does, hears each rung once and as often as there are repeats', async () => {
    const { container, people } = workspace;
    container.committer.commit({ personId: null, source: 'import' }, 'no manager', (writer) =>
      writer.update('person', people.Meera!, { manager_id: null })
    );
    const above = (up: number) =>
      tell(`above-${up}`, { to: [{ who: 'above', up }], leads: ['rung-4'], subject: `${up} up: ‹task›` });
    const repeat = { n: 4, unit: 'workhour' as const, most: 4 };
    ruleOn(workspace, ladder({ leads: [rung(0), rung(4, { repeat })], steps: [above(1), above(2)] }), 'Late');
    // The rung and three repeats, four working hours apart on days of nine.
    await move('2026-03-10T12:00:00Z');
    expect(await told()).toEqual([
      '03-06T07:30 ines: 1 up: Renew it',
      '03-06T11:30 ines: 1 up: Renew it',
      '03-07T06:30 ines: 1 up: Renew it',
      '03-07T10:30 ines: 1 up: Renew it'
    ]);
  });

  it('somebody deactivated is passed over', async () => {
    const { container, people } = workspace;
    container.committer.commit({ personId: null, source: 'import' }, 'gone', (writer) => {
      writer.update('person', people.Meera!, { manager_id: people.Salim! });
      writer.update('person', people.Salim!, { active: 0 });
    });
    ruleOn(workspace, ladder(), 'Late work');
    await move('2026-03-06T08:00:00Z');
    expect(
      (await told()).filter((line) => line.includes('people’s')).map((line) => line.slice(12, 16))
    ).toEqual(['ines']);
  });
});

const viewer = () => ({
  personId: workspace.people.Ines!,
  zone: workspace.container.source.facts.people.get(workspace.people.Ines!)!.zone
});

describe('a promise past the deadline', () => {
  it('waits for a yes from above, and stops the ladder only with it', async () => {
    const { container, people } = workspace;
    ruleOn(workspace, ladder(), 'Late work');
    expect(promise('2026-03-09').result.asked).toBe(true);
    await move('2026-03-06T04:00:00Z');
    expect(await told()).toHaveLength(1);
    const { asked } = container.escalations.view({}, viewer());
    expect(asked).toMatchObject([{ taskId, who: 'Meera', promised: 'Mon 9 Mar' }]);
    const salim = { personId: people.Salim!, source: 'person' as const };
    expect(() => container.promises.answer(salim, asked[0]!.id, true)).toThrow(
      'Only the owner’s managers or a coordinator can answer.'
    );
    container.promises.answer(workspace.coordinator, asked[0]!.id, true);
    await move('2026-03-09T12:00:00Z');
    expect(await told()).toHaveLength(1);
    expect(() => container.promises.answer(workspace.coordinator, asked[0]!.id, true)).toThrow(
      'This promise was answered or its day is past.'
    );
    await move('2026-03-10T04:00:00Z');
    expect(await told()).toHaveLength(3);
  });

  it('without an answer it is refused when its day is over; said by whoever stands above it needs none', async () => {
    promise('2026-03-06');
    await move('2026-03-07T00:00:00Z');
    const states = () => workspace.container.stores.promises.of(taskId).map(({ state }) => state);
    expect(states()).toEqual(['refused']);
    edit({ dueDate: '2026-03-20' });
    expect(promise('2026-03-25', 'Ines').result.asked).toBe(false);
  });
});

describe('facts of the trade (common practice, no source)', () => {
  it('five days before to the owner, two days before to another where it matters', async () => {
    const important = { priorities: ['high' as const, 'pressing' as const], tags: [], groups: [] };
    const before = (n: number, only: Lead['only'] = null): Lead => ({
      ...lead(n, 'day', { anchor: 'ladder', only }),
      id: `before-${-n}`
    });
    const blank = ladder();
    ruleOn(
      workspace,
      {
        ...blank,
        leads: [before(-5), before(-2, important)],
        steps: [
          tell('owner', { to: [{ who: 'owner' }], leads: ['before-5'], subject: 'Ahead: ‹task›' }),
          tell('above', { to: [{ who: 'above', up: 1 }], leads: ['before-2'], subject: 'Two days: ‹task›' })
        ]
      },
      'Two stages'
    );
    // Due Thu 12 March: Sat 7 at 09:00 in Kochi, which is a working day there; Tue 10 at 09:00 on Ines's wall.
    for (const [name, priority] of [
      ['Small', 'low'],
      ['Large', 'pressing']
    ] as const)
      workspace.container.tasks.add(
        workspace.coordinator,
        taskInput({ name, priority, ownerId: workspace.people.Meera!, dueDate: '2026-03-12' })
      );
    await move('2026-03-11T12:00:00Z');
    expect(await told()).toEqual([
      '03-07T03:30 meera: Ahead: Large',
      '03-07T03:30 meera: Ahead: Small',
      '03-10T09:00 ines: Two days: Large'
    ]);
  });
});
