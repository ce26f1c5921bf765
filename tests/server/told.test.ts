import { expect, it } from 'vitest';
import { blankDigest, type DigestDefinition } from '../../src/lib/core/digest/model.ts';
import { doToldAct, type ToldAct } from '../../src/lib/server/person/told-acts.ts';
import { toldEffect, toldWeek } from '../../src/lib/server/person/told-week.ts';
import { standingView } from '../../src/lib/server/person/told-views.ts';
import { signedInAs } from '../../src/lib/server/workspace/signed-in.ts';
import { add, eachInAWorkspace, edit, mail, moveTo, workspace } from '../support/rules.ts';
import { lead, ruleOf, ruleOn } from '../support/workspace.ts';

/** What somebody is told, and what a change of it does. Thursday 5 March 2026, 07:00Z; Ines is in Lisbon, where it is 07:00 too. */
eachInAWorkspace();

const who = (name = 'Ines') => {
  const { container, people } = workspace;
  return signedInAs(container.stores.people.byId(people[name]!)!, container.stores);
};
const told = (act: ToldAct, name = 'Ines') => {
  const { actor, zone, person } = who(name);
  return doToldAct(workspace.container, { ...actor, personId: person.id }, zone, act);
};
const would = (act: ToldAct, name = 'Ines') => toldEffect(workspace.container, who(name), act);
const week = (name = 'Ines') =>
  toldWeek(workspace.container, who(name)).lines.map(({ day, time, what }) => `${day} ${time} ${what}`);
const A_DAY: ToldAct = { name: 'remind', n: -1, unit: 'day' };

it('“for everything of mine” comes for each task that is theirs, as it was said beforehand, and for no other', async () => {
  const { people, container } = workspace;
  add({ name: 'Mine', dueDate: '2026-03-10' });
  add({ name: 'Hers', dueDate: '2026-03-10', ownerId: people.Nora! });
  add({ name: 'Ours', dueDate: '2026-03-11', ownerId: people.Nora!, otherOwnerIds: [people.Ines!] });
  const done = add({ name: 'Done', dueDate: '2026-03-11' });
  edit(done, { statusId: container.stores.projects.statuses().at(-1)!.id });
  await container.engine.tick();
  const said = would(A_DAY).added.map(({ what, after }) => `${after} ${what}`);
  expect(said).toEqual(['Mon 9 Mar, 09:00 Mine', 'Tue 10 Mar, 09:00 Ours']);
  // It was only looked at.
  expect(week()).toEqual([]);
  told(A_DAY);
  await container.engine.tick();
  expect(week()).toEqual(said.map((line) => line.replace(',', '')));
  await moveTo('2026-03-12T12:00Z');
  expect((await mail()).filter((line) => line.includes('ines'))).toEqual([
    '03-09T09:00 ines Mine: due tomorrow',
    '03-10T09:00 ines Ours: due tomorrow'
  ]);
  expect((await mail()).filter((line) => line.includes('nora'))).toEqual([]);
});

it('it rings nothing whose moment has passed, goes with its task to nobody else, and is taken back by an undo', async () => {
  const { people, container } = workspace;
  const late = add({ name: 'Past', dueDate: '2026-03-05' });
  const given = add({ name: 'Given away', dueDate: '2026-03-11' });
  await container.engine.tick();
  const { changeId } = told(A_DAY);
  await container.engine.tick();
  expect(week()).toEqual(['Tue 10 Mar 09:00 Given away']);
  edit(given, { ownerId: people.Nora! });
  edit(late, { name: 'Past, edited' });
  await container.engine.tick();
  expect([week(), week('Nora')]).toEqual([[], []]);
  edit(given, { ownerId: people.Ines! });
  container.committer.undo(changeId, people.Ines!);
  await container.engine.tick();
  expect(week()).toEqual([]);
  await moveTo('2026-03-12T12:00Z');
  expect(await mail()).toEqual([]);
});

it('two of the same are one, and one that is taken out rings no more', async () => {
  const { container } = workspace;
  add({ name: 'Mine', dueDate: '2026-03-10' });
  told(A_DAY);
  expect(() => told(A_DAY)).toThrow(expect.objectContaining({ code: 'standing-lead-there' }));
  await container.engine.tick();
  const [lead] = standingView(container, who()).leads;
  expect(lead!.words).toBe('1 day before the due date');
  const without: ToldAct = { name: 'dropRemind', id: lead!.id };
  expect(would(without).gone.map(({ before }) => before)).toEqual(['Mon 9 Mar, 09:00']);
  expect(() => told(without, 'Nora')).toThrow(expect.objectContaining({ code: 'reminder-gone' }));
  told(without);
  await container.engine.tick();
  expect(week()).toEqual([]);
});

it('a work that begins in an instant that is past by then is told of late, as a rule would', async () => {
  told({ name: 'remind', n: -15, unit: 'minute' });
  await moveTo('2026-03-05T09:50Z');
  add({ name: 'At once', dueDate: '2026-03-05', dueTime: '10:00' });
  await moveTo('2026-03-05T09:51Z');
  expect(await mail()).toEqual([expect.stringContaining('At once')]);
});

it('what a hush, leave, quiet hours, a channel or digest hours would do is what then is', async () => {
  const { people, container } = workspace;
  ruleOn(workspace, ruleOf([lead(-1, 'day')]));
  add({ name: 'Soon', dueDate: '2026-03-10' });
  await container.engine.tick();
  expect(week()).toEqual(['Mon 9 Mar 09:00 Soon']);
  const hush: ToldAct = { name: 'hush', until: '2026-03-09', note: '' };
  expect(would(hush).gone.map(({ before }) => before)).toEqual(['Mon 9 Mar, 09:00']);
  const noDay = { fromTime: null, untilTime: null, note: '' };
  const leave: ToldAct = {
    name: 'leave',
    input: { ...noDay, fromDate: '2026-03-09', untilDate: '2026-03-09', standInId: people.Nora! }
  };
  expect(would(leave).counts).toMatchObject({ gone: 1, moved: 0 });
  const noQuiet = { quiet: [], dailyCap: null, digestDue: null, digestOverdue: null };
  expect(would({ name: 'quiet', input: noQuiet }).counts).toMatchObject({ same: 1, gone: 0, moved: 0 });
  const byApp: ToldAct = { name: 'channels', input: { chat: null, channels: { reminder: ['in-app'] } } };
  expect(would(byApp).otherWay.map(({ before, after }) => [before, after])).toEqual([['mail', 'in the app']]);
  told(leave);
  await moveTo('2026-03-10T12:00Z');
  expect((await mail()).map((line) => line.split(' ')[1])).toEqual(['nora']);
});

it('a digest is counted as it comes: by the channels of its part, and not while its reader is hushed or on leave', async () => {
  const { coordinator, container, people } = workspace;
  const definition: DigestDefinition = {
    ...blankDigest(),
    when: {
      ...{ by: 'schedule', rrule: 'FREQ=DAILY', start: '2026-03-05' },
      ...{ time: '10:00', zone: 'UTC', closedDay: 'as-is' }
    },
    to: [{ who: 'person', id: people.Ines! }],
    about: 'everybody',
    sections: ['undated'],
    empty: 'all clear'
  };
  const digest = container.digests.add(coordinator, { name: 'All', description: '', definition });
  container.digests.turn(coordinator, digest.result, 'on');
  await container.engine.tick();
  expect(week()).toHaveLength(7);
  const hush: ToldAct = { name: 'hush', until: '2026-03-06', note: '' };
  expect(would(hush).gone.map(({ before }) => before)).toEqual(['Thu 5 Mar, 10:00', 'Fri 6 Mar, 10:00']);
  told(hush);
  const input = { chat: null, channels: { 'digest of overdue': ['in-app' as const] } };
  expect(would({ name: 'channels', input }).counts).toMatchObject({ otherWay: 5, same: 0 });
  await moveTo('2026-03-07T11:00Z');
  expect((await mail()).map((line) => line.slice(0, 11))).toEqual(['03-07T10:00']);
});

it('what has waited for longer than the days that are shown, and would leave at once, is said', async () => {
  ruleOn(workspace, ruleOf([lead(-1, 'day')]));
  const days = { fromTime: null, untilTime: null, standInId: null, note: '' };
  const away = { ...days, fromDate: '2026-03-06', untilDate: '2026-03-30' };
  told({ name: 'leave', input: away });
  add({ name: 'Soon', dueDate: '2026-03-10' });
  await moveTo('2026-03-10T10:00Z');
  expect([week(), await mail()]).toEqual([[], []]);
  const [leave] = workspace.container.stores.people.leaveOf(workspace.people.Ines!);
  const back: ToldAct = { name: 'dropLeave', leaveId: leave!.id };
  expect(would(back).added.map(({ what, after }) => [what, after])).toEqual([['Soon', 'now']]);
  told(back);
  await moveTo('2026-03-10T10:01Z');
  expect(await mail()).toEqual([expect.stringContaining('Soon')]);
});

it('nobody ends a hush that another has put on them', async () => {
  const { people, container, coordinator } = workspace;
  const { zone } = who();
  const by = container.quiet.hush(coordinator, { of: 'person', id: people.Nora! }, '2026-03-09', zone);
  const end: ToldAct = { name: 'unhush', hushId: by.result };
  expect(() => told(end, 'Nora')).toThrow(expect.objectContaining({ code: 'hush-gone' }));
  const own = told({ name: 'hush', until: '2026-03-09', note: '' }, 'Nora') as { result: number };
  expect(() => told({ name: 'unhush', hushId: own.result }, 'Nora')).not.toThrow();
});
