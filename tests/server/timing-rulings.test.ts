import { describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Step } from '../../src/lib/core/rule/step-model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import type { LeaveInput } from '../../src/lib/server/person/schema.ts';
import { add, anotherWorkspace, at, eachInAWorkspace, moveTo, workspace } from '../support/rules.ts';
import { MANAGER, lead, received, ruleOf, ruleOn } from '../support/workspace.ts';

/**
 * Smallest cases of what was once computed otherwise: step 9 for the first ring of a lead alone, what one moment merges, in order, leave.
 * Each is foretold, and then sent by the real engine to the mail stand-in; the two must be one. Instants are worked out by hand.
 */
eachInAWorkspace();

const START = '2026-01-05T07:00:00Z';
const away = (name: string, from: string, to: string, standIn: string | null = null) => {
  const [fromDate, fromTime = null] = from.split('T') as [string, string?];
  const [toDate, toTime = null] = to.split('T') as [string, string?];
  const standInId = standIn === null ? null : workspace.people[standIn]!;
  const input: LeaveInput = { fromDate, fromTime, untilDate: toDate, untilTime: toTime, standInId, note: '' };
  workspace.container.people.addLeave(workspace.coordinator, workspace.people[name]!, input);
};

/** Who hears when, `ines 01-07T09:00`, in UTC: as the forecast says and, after the clock has moved there, as it was received. */
async function foretoldAndSent(until: string): Promise<{ foretold: string[]; sent: string[] }> {
  const { container, people } = workspace;
  const names = new Map(Object.entries(people).map(([name, id]) => [id, name.toLowerCase()]));
  const shown = (who: string, instant: number) => `${who} ${new Date(instant).toISOString().slice(5, 16)}`;
  const foretold = container.forecasts
    .notices(container.clock.now(), at(until))
    .filter(({ unrung }) => unrung === null)
    .map(({ readerId, leavesAt }) => shown(names.get(readerId)!, leavesAt));
  const before = (await received(workspace)).length;
  await moveTo(until);
  const sent = (await received(workspace))
    .slice(before)
    .map(({ to, date }) => shown(to[0]!.split('@')[0]!, date));
  return { foretold: foretold.sort(), sent: sent.sort() };
}

async function expectTold(until: string, expected: readonly string[]): Promise<void> {
  const { foretold, sent } = await foretoldAndSent(until);
  expect(sent).toEqual([...expected].sort());
  expect(foretold).toEqual(sent);
}

const ends = (id: number) =>
  workspace.container.stores.notices
    .ofTask(id)
    .map(({ ordinal, state, reason, lateBell }) =>
      [ordinal, state, reason, lateBell && state === 'sent' ? 'late bell' : null]
        .filter((part) => part !== null)
        .join(' ')
    );
const late = (ifLate: RuleDefinition['ifLate'], rule: RuleDefinition): RuleDefinition => ({
  ...rule,
  ifLate
});

describe('step 9 is for the first ring of a lead alone', () => {
  it.each(['keep', 'skip', 'forward', 'ring-anyway'] as const)(
    'so that repeats after the date leave as ever: %s',
    async (choice) => {
      await anotherWorkspace(START);
      const id = add({ dueDate: '2026-01-07' });
      const repeat = { n: 1, unit: 'workday' as const, most: 3 };
      ruleOn(workspace, late(choice, ruleOf([lead(0, 'day', { time: '08:00', repeat })])));
      await expectTold('2026-02-05T00:00Z', ['ines 01-07T09:00', 'ines 01-08T09:00', 'ines 01-09T09:00']);
      expect(ends(id)).toEqual(['0 sent', '1 sent', '2 sent']);
    }
  );

  it('and not for what had lost its point by itself, before it was held', async () => {
    await anotherWorkspace(START);
    // Due at four, and the ring stands at six: the hold until nine the next morning carries nothing past the due moment.
    const id = add({ dueDate: '2026-01-07', dueTime: '16:00' });
    ruleOn(workspace, late('skip', ruleOf([lead(0, 'day', { time: '18:00' })])));
    await expectTold('2026-01-12T00:00Z', ['ines 01-08T09:00']);
    expect(ends(id)).toEqual(['0 sent late bell']);
  });

  it('nor where somebody stands in at the ring instant', async () => {
    await anotherWorkspace(START);
    away('Ines', '2026-01-07', '2026-01-12', 'Nora');
    // Saturday the 10th: Nora is there in her place, and is told when she is at work on Monday, 09:00 in Halifax.
    const id = add({ dueDate: '2026-01-10' });
    ruleOn(workspace, late('forward', ruleOf([lead(0, 'day', { time: '12:00', closedDay: 'as-is' })])));
    await expectTold('2026-01-20T00:00Z', ['nora 01-12T13:00']);
    expect(ends(id)).toEqual(['0 sent']);
  });
});

describe('one moment', () => {
  it('spends the ring that was not sent: brought forward into it, it does not ring again', async () => {
    await anotherWorkspace(START);
    const id = add({ dueDate: '2026-01-11' });
    const leads = [-1, 0].map((n) => lead(n, 'day', { time: '12:00', closedDay: 'as-is' }));
    ruleOn(workspace, late('forward', ruleOf(leads)));
    await expectTold('2026-01-20T00:00Z', ['ines 01-09T17:00']);
    expect(ends(id).sort()).toEqual(['0 sent', '0 unrung same moment']);
  });

  it('lets the latest of several repeats leave, and writes down the others, which use up no maximum', async () => {
    await anotherWorkspace(START);
    // Saturday, Sunday and Monday all ring on Monday.
    const id = add({ dueDate: '2026-01-10' });
    const repeat = { n: 1, unit: 'day' as const, most: 3 };
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00', closedDay: 'later', repeat })]));
    await expectTold('2026-01-20T00:00Z', ['ines 01-12T09:00', 'ines 01-13T09:00', 'ines 01-14T09:00']);
    expect(ends(id).sort()).toEqual([
      '0 unrung same moment',
      '1 unrung same moment',
      '2 sent',
      '3 sent',
      '4 sent'
    ]);
  });

  it('runs the acts once for them', async () => {
    await anotherWorkspace(START);
    const { container } = workspace;
    const id = add({ dueDate: '2026-01-10' });
    const repeat = { n: 1, unit: 'day' as const, most: 3 };
    const rule = ruleOf([lead(0, 'day', { time: '09:00', closedDay: 'later', repeat })]);
    const base = { name: '', description: '', leads: null };
    ruleOn(workspace, {
      ...rule,
      steps: [
        ...rule.steps,
        { ...base, id: 'say', kind: 'do', ask: null, acts: [{ act: 'comment', text: 'Rung.' }] }
      ]
    });
    await moveTo('2026-01-20T00:00Z');
    const said = container.stores.taskParts.comments(id).map(({ at: when }) => new Date(when).toISOString());
    expect(said.map((when) => when.slice(5, 16))).toEqual(['01-12T09:00', '01-13T09:00', '01-14T09:00']);
    const runs = container.db.prepare("SELECT state, outcome FROM run WHERE state = 'running'").all();
    expect(runs).toEqual([]);
  });
});

describe('in order', () => {
  it('brings nobody else’s notice forward to before the owner’s', async () => {
    await anotherWorkspace(START);
    // Salim works on Sunday and hears at noon in Muscat; Ines does not, and would have been brought forward to Friday.
    const id = add({ ownerId: workspace.people.Salim!, dueDate: '2026-01-11' });
    const rule = ruleOf([lead(0, 'day', { time: '12:00', closedDay: 'as-is' })], {
      to: [{ who: 'owner' }, MANAGER]
    });
    ruleOn(workspace, late('forward', rule));
    await expectTold('2026-01-20T00:00Z', ['salim 01-11T08:00', 'ines 01-12T09:00']);
    expect(ends(id)).toEqual(['0 sent', '0 sent late bell']);
  });

  it('brings both forward where the owner’s is', async () => {
    await anotherWorkspace(START);
    // Nora’s last minute is Friday 17:00 in Halifax, 21:00 UTC; that of Ines is four hours before, so hers is kept.
    add({ ownerId: workspace.people.Nora!, dueDate: '2026-01-11' });
    const rule = ruleOf([lead(0, 'day', { time: '12:00', closedDay: 'as-is' })], {
      to: [{ who: 'owner' }, MANAGER]
    });
    ruleOn(workspace, late('forward', rule));
    await expectTold('2026-01-20T00:00Z', ['nora 01-09T21:00', 'ines 01-12T09:00']);
  });

  it('waits for each of several owners', async () => {
    await anotherWorkspace(START);
    const { people, container, coordinator } = workspace;
    const id = add({ ownerId: people.Salim!, dueDate: '2026-01-07' });
    container.tasks.edit(coordinator, id, { otherOwnerIds: [people.Nora!] });
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], { to: [{ who: 'owner' }, MANAGER] }));
    await expectTold('2026-01-12T00:00Z', ['salim 01-07T05:00', 'nora 01-07T13:00', 'ines 01-07T13:00']);
  });
});

describe('leave', () => {
  it('that nobody stands in for ends with the first minute of working time, where reach is any time', async () => {
    await anotherWorkspace(START);
    away('Ines', '2026-01-07', '2026-01-09T18:00');
    add({ dueDate: '2026-01-08' });
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], { reach: 'any time' }));
    await expectTold('2026-01-20T00:00Z', ['ines 01-12T09:00']);
  });

  it('says why the manager is asked', async () => {
    await anotherWorkspace(START);
    away('Salim', '2026-01-07', '2026-01-09', 'Tess');
    add({ ownerId: workspace.people.Salim!, dueDate: '2026-01-08' });
    ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], { away: 'pass' }));
    await moveTo('2026-01-20T00:00Z');
    const { text } = workspace.container.db.prepare('SELECT text FROM message').get() as { text: string };
    expect(text).toContain(
      'You are the stand-in for Salim, who is on leave until Saturday 10 January 2026 at 00:00 there.'
    );
  });
});

describe('what comes as its task is planned anew', () => {
  it('rings all the same: a promise that ends with the day takes “became overdue” from nobody, nor do its acts stay undone', async () => {
    const { container, people, coordinator } = workspace;
    const overdue: Lead = {
      ...{ kind: 'event', id: 'overdue', on: true, only: null, zone: { of: 'owner' } },
      ...{ event: 'became overdue', wide: false }
    };
    const act: Step = {
      ...{ id: 'note', kind: 'do', name: '', description: '', leads: null, ask: null },
      acts: [{ act: 'comment', text: 'Late' }]
    };
    const definition = ruleOf([overdue], { reach: 'any time' });
    ruleOn(workspace, { ...definition, steps: [...definition.steps, act] });
    const id = add({ dueDate: '2026-03-08' });
    const ines = container.source.facts.people.get(people.Ines!)!;
    container.promises.acknowledge(coordinator, container.stores.tasks.byId(id)!, ines, '2026-03-08');
    await expectTold('2026-03-10T00:00Z', ['ines 03-09T00:00']);
    expect(container.stores.taskParts.comments(id).map(({ text }) => text)).toEqual(['Late']);
  });
});
