import { beforeEach, describe, expect, it } from 'vitest';
import type { RuleDefinition } from '../../src/lib/core/rule/model.ts';
import type { Tell } from '../../src/lib/core/rule/step-model.ts';
import type { Lead, OffsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { lead, MANAGER, ruleOf, ruleOn } from '../support/workspace.ts';
import {
  add,
  at,
  eachInAWorkspace,
  edit,
  mail,
  moveTo,
  notices,
  on,
  tick,
  workspace
} from '../support/rules.ts';

/**
 * Quiet is quiet, and a new owner hears. It is Thursday 5 March 2026. Ines, above everybody, works from 09:00 in Lisbon (09:00Z); Nora in
 * Halifax from 13:00Z; Meera in Kochi until 12:30Z; Salim in Muscat until 12:00Z; Tess in Hobart from 22:00Z.
 */
eachInAWorkspace();
beforeEach(() => workspace.container.digests.turn(workspace.coordinator, 1, 'off'));

const LISBON = zoneNamed('Europe/Lisbon');
const hush = (of: 'task' | 'person' | 'rule', id: number) =>
  workspace.container.quiet.hush(workspace.coordinator, { of, id }, '2026-03-05', LISBON).result;
const wants = (id: number, name: string, reminded: boolean) =>
  workspace.container.quiet.setReminded(workspace.coordinator, id, workspace.people[name]!, reminded);
const comment = (id: number) => workspace.container.taskActs.comment(workspace.coordinator, id, 'A word');
/** The day before at 08:00Z: the owner at once, the manager at the next opening, 09:00Z. */
const dayBefore = (patch: Partial<Tell> = {}, timing: Partial<OffsetLead> = {}): RuleDefinition => ({
  ...ruleOf([lead(-1, 'day', { time: '08:00', zone: { of: 'workspace' }, ...timing })], {
    to: [{ who: 'owner' }, MANAGER],
    subject: '‹task›',
    reach: 'working hours',
    ...patch
  }),
  inOrder: false
});
const daily: Lead = {
  ...{ kind: 'schedule', id: 'daily', on: true, only: null, zone: { of: 'workspace' } },
  ...{ rrule: 'FREQ=DAILY', start: '2026-01-02', time: '08:00', closedDay: 'as-is', oncePerDate: false }
};
/** Which messages a forecast says will leave, and to whom. */
const foretold = (from: string, until: string) =>
  workspace.container.forecasts
    .messages(at(from), at(until))
    .map(({ date, to }) => `${new Date(date).toISOString().slice(5, 16)} ${to[0]!.split('@')[0]}`);
/** Who gets the deliveries, in the order in which they were queued. */
const queued = () =>
  workspace.container.db
    .prepare<[], string>("SELECT address FROM delivery WHERE channel = 'mail' ORDER BY id")
    .pluck()
    .all()
    .map((address) => address.split('@')[0]);
const MEERA_AND_INES = ['03-05T08:00 meera Task', '03-05T09:00 ines Task'];

describe('hushed, nobody is told afterwards', () => {
  const EDITS: [string, (id: number) => unknown][] = [
    ['its priority changes', (id) => edit(id, { priority: 'high' })],
    ['somebody comments', comment],
    ['it comes to another owner', (id) => edit(id, { ownerId: workspace.people.Salim! })]
  ];
  const HUSHES: [string, (task: number, rule: number) => unknown][] = [
    ['the task', (task) => hush('task', task)],
    ['the rule', (_, rule) => hush('rule', rule)],
    ['the manager', () => hush('person', workspace.people.Ines!)],
    ['“no reminder” of the manager', (task) => wants(task, 'Ines', false)],
    [
      '“no reminder” of the manager, taken back before',
      (task) => {
        wants(task, 'Ines', false);
        return tick().then(() => wants(task, 'Ines', true));
      }
    ]
  ];
  it.each(
    HUSHES.flatMap(([what, quieten]) => EDITS.map(([then, change]) => ({ what, quieten, then, change })))
  )('with $what, when $then', async ({ quieten, change }) => {
    const ruleId = ruleOn(workspace, dayBefore());
    const id = add({ ownerId: workspace.people.Meera!, dueDate: '2026-03-06' });
    await moveTo('2026-03-05T08:20Z');
    await quieten(id, ruleId);
    await moveTo('2026-03-05T08:40Z');
    change(id);
    await moveTo('2026-03-07T00:00Z');
    expect((await mail()).filter((line) => line.includes('ines'))).toEqual([]);
  });

  it('while what is not hushed comes as it was said', async () => {
    ruleOn(workspace, dayBefore());
    const id = add({ ownerId: workspace.people.Meera!, dueDate: '2026-03-06' });
    await moveTo('2026-03-05T08:40Z');
    edit(id, { priority: 'high' });
    comment(id);
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual(MEERA_AND_INES);
  });

  it('but nothing that is not there is kept quiet', () => {
    for (const of of ['task', 'person', 'rule'] as const)
      expect(() => hush(of, 999)).toThrow(expect.objectContaining({ code: `${of}-gone` }));
  });

  it('not of a new date, a new task or a new owner in it, with the reason', async () => {
    const ruleId = ruleOn(workspace, dayBefore({ to: [{ who: 'owner' }] }));
    const dated = add({ ownerId: workspace.people.Meera!, dueDate: '2026-03-20' });
    const given = add({ ownerId: workspace.people.Nora!, dueDate: '2026-03-06' });
    await moveTo('2026-03-05T08:20Z');
    hush('rule', ruleId);
    edit(dated, { dueDate: '2026-03-06' });
    edit(given, { ownerId: workspace.people.Meera! });
    const made = add({ ownerId: workspace.people.Meera!, dueDate: '2026-03-06' });
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([]);
    expect([dated, made].map(notices)).toEqual([['unrung: hushed'], ['unrung: hushed']]);
    expect(notices(given)).toEqual(['withdrawn: hushed', 'unrung: hushed']);
  });

  it('nor of what would have rung in it, once it is over', async () => {
    ruleOn(workspace, dayBefore({ to: [{ who: 'owner' }] }));
    const id = add({ ownerId: workspace.people.Meera! });
    const other = add({ ownerId: workspace.people.Meera! });
    await moveTo('2026-03-05T07:50Z');
    const hushId = hush('task', id);
    wants(other, 'Meera', false);
    await moveTo('2026-03-05T08:10Z');
    workspace.container.quiet.unhush(workspace.coordinator, hushId);
    wants(other, 'Meera', true);
    for (const task of [id, other]) edit(task, { dueDate: '2026-03-06' });
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual([]);
    expect([id, other].map(notices)).toEqual([['unrung: hushed'], ['unrung: hushed']]);
  });

  it('in the minute of a hush and an edit, nor in the minute in which it ends', async () => {
    const ruleId = ruleOn(workspace, dayBefore());
    const id = add({ ownerId: workspace.people.Meera!, dueDate: '2026-03-06' });
    await moveTo('2026-03-05T08:20Z');
    hush('task', id);
    edit(id, { priority: 'high' });
    await tick();
    expect(notices(id)).toEqual(['withdrawn: hushed', 'sent']);
    // Quiet holds until its last minute and not in the next: what rings at midnight is told.
    const midnight = ruleOn(
      workspace,
      ruleOf([lead(0, 'day', { time: '00:00', zone: { of: 'workspace' } })], {
        reach: 'any time',
        subject: 'At midnight'
      })
    );
    expect(midnight).not.toBe(ruleId);
    await moveTo('2026-03-07T00:00Z');
    expect(await mail()).toEqual(['03-05T08:00 meera Task', '03-06T00:00 meera At midnight']);
  });
});

describe('a new owner hears', () => {
  const RULES: [string, (patch?: Partial<Tell>) => RuleDefinition][] = [
    ['an offset', dayBefore],
    ['a schedule', (patch = {}) => ({ ...dayBefore(patch), leads: [daily] })],
    ['an event', (patch = {}) => ({ ...dayBefore(patch), leads: [on('commented')] })]
  ];
  /** Told by each kind of ring at 08:00Z, to leave at Ines's opening and at Nora's. */
  const begun = async (definition: RuleDefinition) => {
    workspace.container.committer.commit(workspace.coordinator, 'Salim leads Meera', (writer) =>
      writer.update('person', workspace.people.Meera!, { manager_id: workspace.people.Salim! })
    );
    ruleOn(workspace, definition);
    const id = add({ ownerId: workspace.people.Nora!, dueDate: '2026-03-06' });
    await moveTo('2026-03-05T08:00Z');
    if (definition.leads[0]!.kind === 'event') comment(id);
    await moveTo('2026-03-05T08:30Z');
    return id;
  };
  const heldUntil = '2026-03-05T23:30Z';

  it.each(RULES)(
    'of %s that is held, once, and whoever stands above them; the old ones do not',
    async (_, of) => {
      const id = await begun(of());
      edit(id, { ownerId: workspace.people.Meera! });
      await moveTo(heldUntil);
      expect((await mail()).sort()).toEqual(['03-05T08:30 meera Task', '03-05T08:30 salim Task']);
      expect(notices(id).filter((state) => state !== 'sent')).toEqual([
        'withdrawn: somebody else is told',
        'withdrawn: somebody else is told'
      ]);
    }
  );

  it.each(RULES)('of %s, which the preview of giving it away says', async (_, of) => {
    const id = await begun(of());
    const { Meera, Ines } = workspace.people;
    const give = () => void edit(id, { ownerId: Meera! });
    const before = workspace.container.effects.ofAct([id], give, { zone: LISBON, personId: Ines! });
    const gone = before.lines.filter(({ kind, after }) => kind === 'gone' && after === 'withdrawn');
    expect(gone.map(({ who }) => who).sort()).toEqual(['Ines', 'Nora']);
    expect(before.atOnce!.listed.flatMap(({ to }) => to).sort()).toEqual(['Meera', 'Salim']);
  });

  it.each(RULES)('of %s, at their next opening where they are out of reach', async (_, of) => {
    const id = await begun(of());
    edit(id, { ownerId: workspace.people.Tess! });
    await moveTo(heldUntil);
    // Ines stands above her as above Nora: what she waits for stays.
    expect(await mail()).toEqual(['03-05T09:00 ines Task', '03-05T22:00 tess Task']);
  });

  it.each(RULES)('of %s, the last of two who got it between hold and leaving', async (_, of) => {
    const id = await begun(of());
    edit(id, { ownerId: workspace.people.Tess! });
    await moveTo('2026-03-05T08:40Z');
    edit(id, { ownerId: workspace.people.Meera! });
    await moveTo(heldUntil);
    expect((await mail()).sort()).toEqual(['03-05T08:40 meera Task', '03-05T08:40 salim Task']);
  });

  it.each(RULES)('of %s, once, where the manager becomes the owner', async (_, of) => {
    const id = await begun(of());
    const give = () => void edit(id, { ownerId: workspace.people.Ines! });
    const said = workspace.container.effects.ofAct([id], give, { zone: LISBON, personId: null });
    expect(said.lines.filter(({ after }) => after.includes('made up for'))).toEqual([]);
    expect(said.atOnce!.messages).toBe(0);
    edit(id, { ownerId: workspace.people.Ines! });
    await moveTo(heldUntil);
    expect(await mail()).toEqual(['03-05T09:00 ines Task']);
  });

  it.each(RULES)('of %s, again the first, where it comes back to them', async (_, of) => {
    const id = await begun(of());
    edit(id, { ownerId: workspace.people.Tess! });
    await moveTo('2026-03-05T08:40Z');
    edit(id, { ownerId: workspace.people.Nora! });
    await moveTo(heldUntil);
    expect(await mail()).toEqual(['03-05T09:00 ines Task', '03-05T13:00 nora Task']);
  });

  it.each(RULES)('of %s, not where the rule does not tell who comes later', async (_, of) => {
    const definition = of();
    const id = await begun({ ...definition, past: { ...definition.past, newRecipient: 'do not ring' } });
    edit(id, { ownerId: workspace.people.Meera! });
    await moveTo(heldUntil);
    expect(await mail()).toEqual([]);
  });

  it('once, where what gave it to them tells them by the same rule', async () => {
    ruleOn(workspace, { ...dayBefore({ to: [{ who: 'owner' }] }), leads: [on('assigned')] });
    const id = add({ ownerId: workspace.people.Nora! });
    await moveTo('2026-03-05T08:00Z');
    edit(id, { ownerId: workspace.people.Meera! });
    // The clock of a real workspace goes on between the change and the plan made after it.
    workspace.container.clock.set(at('2026-03-05T08:00:05Z'), false);
    await moveTo('2026-03-05T23:00Z');
    expect(await mail()).toEqual(['03-05T08:00 meera Task']);
  });

  it('of what a weekend held, though the ring was days ago', async () => {
    ruleOn(workspace, dayBefore({}, { closedDay: 'as-is' }));
    const id = add({ ownerId: workspace.people.Nora!, dueDate: '2026-03-08' });
    await moveTo('2026-03-07T09:00Z');
    edit(id, { ownerId: workspace.people.Meera! });
    await moveTo('2026-03-07T12:00Z');
    // Saturday is a working day in Kochi.
    expect(await mail()).toEqual(['03-07T09:00 meera Task']);
  });

  it('of what is kept for a digest, as the forecast of each says beforehand', async () => {
    const id = await begun({ ...dayBefore({ fold: true }), leads: [daily] });
    edit(id, { ownerId: workspace.people.Meera! });
    await tick();
    const ahead = foretold('2026-03-05T08:30Z', '2026-03-06T08:00Z');
    await moveTo('2026-03-06T08:00Z');
    const left = (await mail()).map((line) => line.split(' ').slice(0, 2).join(' '));
    expect(left).toEqual(ahead);
    expect(left.filter((line) => line.includes('nora'))).toEqual([]);
    expect(left.filter((line) => line.includes('meera'))).toHaveLength(1);
  });

  it('once per task and date is once for each recipient', async () => {
    ruleOn(workspace, { ...dayBefore({ reach: 'any time' }), leads: [{ ...daily, oncePerDate: true }] });
    const id = add({ ownerId: workspace.people.Nora!, dueDate: '2026-03-04' });
    await moveTo('2026-03-06T12:00Z');
    edit(id, { ownerId: workspace.people.Meera! });
    await tick();
    const ahead = foretold('2026-03-06T12:00Z', '2026-03-10T00:00Z');
    await moveTo('2026-03-10T00:00Z');
    // Two people are told at one instant, and a channel keeps order to one address alone: in order they are queued.
    expect((await mail()).sort()).toEqual([
      '03-05T08:00 ines Task',
      '03-05T08:00 nora Task',
      '03-07T08:00 meera Task'
    ]);
    expect(queued()).toEqual(['nora', 'ines', 'meera']);
    expect(ahead).toEqual(['03-07T08:00 meera']);
  });

  it('not of what had passed for one of two owners when the rule was turned on, whatever is edited after the other heard', async () => {
    const id = add({ ownerId: workspace.people.Meera!, dueDate: '2026-03-05' });
    edit(id, { otherOwnerIds: [workspace.people.Nora!] });
    const noon = lead(0, 'day', { time: '12:00', zone: { of: 'recipient' } });
    ruleOn(workspace, ruleOf([noon], { subject: '‹task›', reach: 'any time' }));
    await moveTo('2026-03-05T16:30Z');
    comment(id);
    await moveTo('2026-03-05T18:00Z');
    // Noon in Kochi was before the rule, noon in Halifax after it.
    expect(await mail()).toEqual(['03-05T16:00 nora Task']);
  });
});

it('a task that comes in on its day is told in the words of that day alone, though another Tell had those of a week before', async () => {
  const week = lead(-7, 'day', { time: '06:00', zone: { of: 'workspace' } });
  const day = lead(0, 'day', { time: '06:00', zone: { of: 'workspace' } });
  const words = (id: string, leads: string[], subject: string) => ({
    ...(ruleOf([], { subject, reach: 'any time' }).steps[0] as Tell),
    ...{ id, leads }
  });
  const steps = [words('a', [week.id], 'In a week: ‹task›'), words('b', [day.id], 'Today: ‹task›')];
  ruleOn(workspace, { ...ruleOf([week, day]), steps });
  const id = add({ dueDate: '2026-03-05' });
  await tick();
  await workspace.container.outbox.drain();
  expect((await mail()).map((line) => line.split(' ').slice(2).join(' '))).toEqual(['Today: Task']);
  expect(notices(id).sort()).toEqual(['sent', 'unrung: overtaken']);
});
