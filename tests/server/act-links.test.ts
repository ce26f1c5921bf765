import { createCipheriv, createHmac } from 'node:crypto';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { recordOf } from '../../src/lib/server/task/task-record.ts';
import { NO_STOP } from '../../src/lib/core/rule/model.ts';
import type { Lead } from '../../src/lib/core/rule/lead-model.ts';
import { actToken, digestTokens, readActToken } from '../../src/lib/server/engine/act-tokens.ts';
import {
  MANAGER,
  lead,
  openWorkspace,
  received,
  ruleOf,
  ruleOn,
  taskInput,
  type TestWorkspace
} from '../support/workspace.ts';

/** What can be done by a link in a message: one act, once, for its reader. */
let workspace: TestWorkspace;
let taskId: number;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
  taskId = workspace.container.tasks.add(
    workspace.coordinator,
    taskInput({ name: 'Renew it', ownerId: workspace.people.Meera!, dueDate: '2026-03-06' })
  ).result;
});
afterEach(() => workspace.close());

/** The links of the last message to somebody, by what stands before them. */
async function linksTo(name: string): Promise<Record<string, string>> {
  const { container } = workspace;
  const mine = (await received(workspace)).filter(({ to }) => to.includes(`${name}@test.example`));
  const { text } = (await container.postRoom.message(mine.at(-1)!.id))!;
  const found = [...text!.matchAll(/^(.+): http:\/\/early-bell\.test\/act\/(\S+)$/gm)];
  return Object.fromEntries(found.map(([, words, token]) => [words!, token!]));
}
const move = (to: string) => workspace.container.engine.moveClock(Date.parse(to));
const task = () => workspace.container.stores.tasks.byId(taskId)!;

describe('links in a reminder', () => {
  beforeEach(async () => {
    ruleOn(
      workspace,
      ruleOf([lead(0, 'day', { time: '10:00' })], { to: [{ who: 'owner' }, { who: 'manager', up: 1 }] })
    );
    await move('2026-03-06T12:00:00Z');
  });

  it('stand in the owner’s message; whoever does not own the task can only put it off', async () => {
    expect(Object.keys(await linksTo('meera'))).toEqual([
      'Done',
      'Acknowledge',
      'Change date',
      'Remind me later'
    ]);
    expect(Object.keys(await linksTo('ines'))).toEqual(['Remind me later']);
  });

  it('finish the task once, as the reader, by way of the link; looking at it changes nothing', async () => {
    const { actLinks, stores } = workspace.container;
    const { Done: token } = await linksTo('meera');
    expect(actLinks.view(token!)).toMatchObject({ task: 'Renew it', reader: 'Meera', act: 'done' });
    expect(task().phase).toBe('waiting to start');
    expect(actLinks.perform(token!, '').words).toBe('“Renew it” is finished.');
    expect(task().phase).toBe('finished');
    const change = stores.changes.latestOf('task', taskId)!;
    expect(change.actorId).toBe(workspace.people.Meera);
    const source = workspace.container.db.prepare('SELECT source FROM change ORDER BY id DESC').pluck().get();
    expect(source).toBe('link');
    const lisbon = zoneNamed('Europe/Lisbon');
    const [line] = recordOf(
      workspace.container,
      taskId,
      { zone: lisbon, personId: null },
      { personId: 0, all: true, reports: [] },
      lisbon.dayOf(Date.parse('2026-03-06T12:00Z'))
    );
    expect(line).toMatchObject({
      by: 'Meera',
      source: 'by the message “Renew it is due today” of Fri 6 Mar, 04:30'
    });
    expect(() => actLinks.perform(token!, '')).toThrow(
      'This link was used (Fri 6 Mar, 17:30). It works once.'
    );
    expect(() => actLinks.view(token!)).toThrow('This link was used (Fri 6 Mar, 17:30). It works once.');
  });

  it('give it another date; a date that is none uses nothing up', async () => {
    const { actLinks } = workspace.container;
    const { 'Change date': token } = await linksTo('meera');
    const { choices } = actLinks.view(token!);
    // Meera works on Saturdays: tomorrow is her next working day, and said once.
    expect(choices.map(({ words }) => words)).toEqual(['Tomorrow, Sat 7 Mar', 'In a week, Fri 13 Mar']);
    expect(() => actLinks.perform(token!, '2026-02-30')).toThrow();
    expect(actLinks.perform(token!, choices[1]!.value).words).toBe('“Renew it” is due on Fri 13 Mar now.');
    expect(task().due?.date).toBe('2026-03-13');
  });

  it('remind later, at the reader’s wall', async () => {
    const { actLinks } = workspace.container;
    const { 'Remind me later': token } = await linksTo('ines');
    const [, next] = actLinks.view(token!).choices;
    expect(next!.words).toBe('Next working day, Mon 9 Mar, 09:00');
    expect(actLinks.perform(token!, next!.value).words).toContain('on Mon 9 Mar, 09:00, after its date');
    await move('2026-03-09T12:00:00Z');
    const mine = (await received(workspace)).filter(({ to }) => to.includes('ines@test.example'));
    expect(mine.map(({ date }) => new Date(date).toISOString())).toEqual([
      '2026-03-06T10:00:00.000Z',
      '2026-03-09T09:00:00.000Z'
    ]);
  });

  it('are refused before a form is shown where there is nothing left to do, or it is somebody else’s by now', async () => {
    const { actLinks, tasks } = workspace.container;
    const links = await linksTo('meera');
    const refused = (link: string, words: string) => {
      expect(() => actLinks.view(link)).toThrow(words);
      expect(() => actLinks.perform(link, '2026-04-01')).toThrow(words);
    };
    const { changeId } = tasks.edit(workspace.coordinator, taskId, { statusId: 3 });
    for (const link of Object.values(links))
      refused(link, '“Renew it” is already finished. Nothing is left to do.');
    expect(task().due?.date).toBe('2026-03-06');
    workspace.container.committer.undo(changeId, workspace.people.Ines!);
    tasks.edit(workspace.coordinator, taskId, { ownerId: workspace.people.Tess! });
    refused(links['Acknowledge']!, '“Renew it” is Tess’s now');
    // Whoever can still be reminded of it can put that off.
    expect(actLinks.view(links['Remind me later']!).act).toBe('later');
  });

  it('mark closed days, and offer the next working day before a closed tomorrow', async () => {
    const { actLinks, tasks } = workspace.container;
    const id = tasks.add(
      workspace.coordinator,
      taskInput({ name: 'Lisbon', ownerId: workspace.people.Ines!, dueDate: '2026-03-06' })
    ).result;
    await move('2026-03-06T12:00:01Z');
    const { 'Change date': token } = await linksTo('ines');
    expect(actLinks.view(token!).choices.map(({ words }) => words)).toEqual([
      'Next working day, Mon 9 Mar',
      'Tomorrow, Sat 7 Mar, a closed day',
      'In a week, Fri 13 Mar'
    ]);
    expect(id).toBeGreaterThan(0);
  });

  it('take back what they did, from their own page, once, and as whoever did it', async () => {
    const { actLinks } = workspace.container;
    const { Done: done, 'Remind me later': later, 'Change date': date } = await linksTo('meera');
    expect(() => actLinks.undo(done!)).toThrow('This link is incomplete. Open it again from the message.');
    expect(actLinks.perform(done!, '').undoable).toBe(true);
    expect(actLinks.undo(done!)).toBe('Undone: “Renew it” is as it was.');
    expect(task().phase).toBe('waiting to start');
    expect(() => actLinks.undo(done!)).toThrow('undone already');
    // What the link was for is used up all the same.
    expect(() => actLinks.view(done!)).toThrow('This link was used (Fri 6 Mar, 17:30). It works once.');
    const [choice] = actLinks.view(later!).choices;
    expect(actLinks.perform(later!, choice!.value).undoable).toBe(false);
    actLinks.perform(date!, '2026-04-20');
    await move('2026-03-21T12:00:00Z');
    expect(() => actLinks.undo(date!)).toThrow('too old');
  });

  it('do nothing when they are old, forged, of a task that is gone, or of somebody who may no longer', async () => {
    const { actLinks, taskActs, committer } = workspace.container;
    const { Done: done, 'Change date': date } = await linksTo('meera');
    const last = done!.at(-1) === 'A' ? 'B' : 'A';
    expect(() => actLinks.perform(`${done!.slice(0, -1)}${last}`, '')).toThrow(
      'This link is incomplete. Open it again from the message.'
    );
    expect(() => actLinks.perform(done!.replace('-done-', '-date-'), '2026-04-01')).toThrow(
      'This link is incomplete. Open it again from the message.'
    );
    expect(() => actLinks.perform('nonsense', '')).toThrow(
      'This link is incomplete. Open it again from the message.'
    );
    committer.commit(workspace.coordinator, 'given away', (writer) =>
      writer.update('task', taskId, { owner_id: workspace.people.Tess!, created_by: workspace.people.Ines! })
    );
    expect(() => actLinks.perform(date!, '2026-04-01')).toThrow();
    expect(task().due?.date).toBe('2026-03-06');
    taskActs.bin(workspace.coordinator, taskId);
    expect(() => actLinks.view(done!)).toThrow('This task was not found.');
    await move('2026-03-20T12:00:00Z');
    expect(() => actLinks.view(done!)).toThrow('too old');
  });
});

it('a question is answered by a link', async () => {
  const blank = ruleOf([lead(0, 'day', { time: '10:00' })]);
  ruleOn(workspace, {
    ...blank,
    steps: [
      {
        ...{ id: 'close', kind: 'do', name: '', description: '', leads: null },
        acts: [{ act: 'set priority', priority: 'low' }],
        ask: { question: 'Is it still needed?', workingDays: 3, otherwise: 'no' }
      }
    ]
  });
  await move('2026-03-06T12:00:00Z');
  const links = await linksTo('meera');
  expect(Object.keys(links)).toEqual(['Yes', 'No', 'I will change the task']);
  const { actLinks, engine } = workspace.container;
  expect(actLinks.view(links.Yes!).question).toBe('Is it still needed?');
  expect(actLinks.perform(links.Yes!, '').words).toBe('Answer saved: yes.');
  await engine.tick();
  expect(task().priority).toBe('low');
  expect(() => actLinks.perform(links.No!, '')).toThrow();
});

it('a token says what it was made for, and fits no other key', () => {
  const [key, other] = [Buffer.alloc(32, 1), Buffer.alloc(32, 2)];
  const at = Date.parse('2026-03-06T10:00:00Z');
  const token = actToken(key, 4_321, 'date', at);
  expect(token).toMatch(/^[\w-]{20,60}$/);
  const expiresAt = at + 14 * 86_400_000;
  expect(readActToken(key, token)).toEqual({ of: { noticeId: 4_321 }, act: 'date', expiresAt });
  expect(readActToken(other, token)).toBeNull();
});

it('each link in a row of a digest does its own act, and tells nothing of the other', () => {
  const [key, other] = [Buffer.alloc(32, 1), Buffer.alloc(32, 2)];
  const at = Date.parse('2026-03-06T10:00:00Z');
  const of = { digestRunId: 77, taskId: 4_321 };
  const tokens = digestTokens(key, of.digestRunId, at)(of.taskId);
  for (const act of ['done', 'date'] as const) {
    expect(readActToken(key, tokens[act])).toEqual({ of, act, expiresAt: at + 14 * 86_400_000 });
    expect(readActToken(other, tokens[act])).toBeNull();
    const swapped = tokens[act].replace(`-${act}-`, act === 'done' ? '-date-' : '-done-');
    expect(readActToken(key, swapped)).toBeNull();
    // What a row does not offer is not made of one that it does.
    expect(readActToken(key, tokens[act].replace(`-${act}-`, '-promise-'))).toBeNull();
    expect(readActToken(key, tokens[act].replace('3c', '3d'))).toBeNull();
    // The same number written in another way would be a second link.
    expect(readActToken(key, tokens[act].replace('.', '.0'))).toBeNull();
    expect(readActToken(key, `0${tokens[act]}`)).toBeNull();
    // Neither another digest nor another task has this signature.
    expect(digestTokens(key, of.digestRunId + 1, at)(of.taskId)[act].slice(-22)).not.toBe(
      tokens[act].slice(-22)
    );
    expect(digestTokens(key, of.digestRunId, at)(of.taskId + 1)[act].slice(-22)).not.toBe(
      tokens[act].slice(-22)
    );
  }
  expect(tokens.done.slice(-22)).not.toBe(tokens.date.slice(-22));
});

it('a row of a digest is signed with one block of AES-256 under a key of its digest', () => {
  const [key, at] = [Buffer.alloc(32, 1), Date.parse('2026-03-06T10:00:00Z')];
  const { done } = digestTokens(key, 77, at)(4_321);
  const expires = done.split('-')[2]!;
  const ownKey = createHmac('sha256', key)
    .update(`${(77).toString(36)}.-${expires}`)
    .digest();
  // CBC from a vector of zeros is what CBC-MAC is (ISO/IEC 9797-1, algorithm 1): for one block, that block.
  const cipher = createCipheriv('aes-256-cbc', ownKey, Buffer.alloc(16)).setAutoPadding(false);
  const block = Buffer.concat([Buffer.alloc(8), Buffer.from('00000000000010e1', 'hex')]);
  expect(done.slice(-22)).toBe(cipher.update(block).toString('base64url'));
});

it('is one text: what decodes to the same bytes is no second link', () => {
  const key = Buffer.alloc(32, 1);
  const token = actToken(key, 5, 'date', Date.parse('2026-03-06T10:00:00Z'));
  const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
  const opened = [...letters].filter((letter) => readActToken(key, token.slice(0, -1) + letter) !== null);
  expect(opened).toEqual([token.at(-1)]);
});

describe('acknowledging late work', () => {
  /** Told on each working day after the date until somebody acknowledges, and the manager when a promise is broken. */
  beforeEach(async () => {
    const daily = lead(1, 'workday', { time: '10:00', repeat: { n: 1, unit: 'workday', most: 5 } });
    ruleOn(
      workspace,
      {
        ...ruleOf([daily], { subject: 'Late: ‹task›' }),
        stop: { ...NO_STOP, condition: { field: 'acknowledged', op: 'is yes' } }
      },
      'Late'
    );
    const broken: Lead = {
      ...{ kind: 'event', id: 'broken', on: true, only: null, zone: { of: 'owner' }, wide: false },
      event: 'promise broken'
    };
    ruleOn(
      workspace,
      ruleOf([broken], { subject: 'Broken: ‹task›', to: [MANAGER], reach: 'any time' }),
      'Broken'
    );
    await move('2026-03-07T12:00:00Z');
  });
  const subjects = async (name: string) =>
    (await received(workspace))
      .filter(({ to }) => to.includes(`${name}@test.example`))
      .map(({ subject }) => subject);
  const said = () =>
    workspace.container.stores.promises.of(taskId).map(({ promised, state }) => `${promised} ${state}`);

  it('with a date that is kept: the rule is silent, and nobody hears more', async () => {
    const { actLinks, tasks, stores } = workspace.container;
    const { Acknowledge: token } = await linksTo('meera');
    expect(actLinks.view(token!).choices.map(({ words }) => words)).toEqual([
      'Next working day, Mon 9 Mar',
      'Tomorrow, Sun 8 Mar, a closed day',
      'In a week, Sat 14 Mar'
    ]);
    expect(actLinks.perform(token!, '2026-03-10').words).toBe('“Renew it” is promised for Tue 10 Mar.');
    await move('2026-03-10T12:00:00Z');
    tasks.edit({ personId: workspace.people.Meera!, source: 'person' }, taskId, {
      statusId: stores.projects.statuses().find(({ phase }) => phase === 'finished')!.id
    });
    await move('2026-03-14T12:00:00Z');
    expect(said()).toEqual(['2026-03-10 kept']);
    expect(await subjects('meera')).toEqual(['Late: Renew it']);
    expect(await subjects('ines')).toEqual([]);
  });

  it('with a date that goes by: the manager hears at the end of that day where the task is', async () => {
    const { actLinks } = workspace.container;
    const { Acknowledge: token } = await linksTo('meera');
    actLinks.perform(token!, '2026-03-10');
    // The 10th ends at 18:30 UTC in Kolkata (UTC+5:30, tz database).
    await move('2026-03-10T18:29:00Z');
    expect(said()).toEqual(['2026-03-10 open']);
    await move('2026-03-10T18:31:00Z');
    expect(said()).toEqual(['2026-03-10 broken']);
    expect(await subjects('ines')).toEqual(['Broken: Renew it']);
  });

  it('without a date until the end of the next working day; then nothing was broken', async () => {
    const { actLinks } = workspace.container;
    const { Acknowledge: token } = await linksTo('meera');
    expect(actLinks.perform(token!, '').words).toBe('“Renew it” acknowledged.');
    await move('2026-03-10T12:00:00Z');
    expect(said()).toEqual(['null over']);
    expect(await subjects('ines')).toEqual([]);
  });

  it('without a date twice for a due date, so that nobody puts off a ladder day by day; whoever is above may', async () => {
    const { container, people } = workspace;
    const seenBy = (name: string) =>
      container.promises.acknowledge(
        { personId: people[name]!, source: 'person' },
        task(),
        container.source.facts.people.get(people[name]!)!,
        null
      );
    seenBy('Meera');
    await move('2026-03-10T12:00:00Z');
    seenBy('Meera');
    await move('2026-03-12T12:00:00Z');
    expect(() => seenBy('Meera')).toThrow('Acknowledged twice already. Give a date now.');
    seenBy('Ines');
    expect(said()).toEqual(['null over', 'null over', 'null open']);
    // With another due date it is another matter.
    container.tasks.edit(workspace.coordinator, taskId, { dueDate: '2026-03-11' });
    seenBy('Meera');
  });

  it('refuses a day that has gone by and a second putting off; what is refused uses nothing up', async () => {
    const { container, people } = workspace;
    const { Acknowledge: token } = await linksTo('meera');
    expect(() => container.actLinks.perform(token!, '2026-03-01')).toThrow(
      'That day is past. Choose today or later.'
    );
    expect(() => container.actLinks.perform(token!, '2026-02-30')).toThrow();
    container.actLinks.perform(token!, '2026-03-09');
    const again = (date: string) =>
      container.promises.acknowledge(
        { personId: people.Meera!, source: 'person' },
        task(),
        container.source.facts.people.get(people.Meera!)!,
        date
      );
    const { changeId } = again('2026-03-11');
    expect(said()).toEqual(['2026-03-09 over', '2026-03-11 open']);
    expect(() => again('2026-03-12')).toThrow('A promised date can change once. It already has.');
    container.committer.undo(changeId, people.Ines!);
    expect(said()).toEqual(['2026-03-09 open']);
    // With another due date it is another matter.
    container.tasks.edit(workspace.coordinator, taskId, { dueDate: '2026-03-20' });
    // Past the date it waits for a yes from above, until something else is said.
    expect(again('2026-03-21').result.asked).toBe(true);
    expect(again('2026-03-20').result.asked).toBe(false);
    expect(said().slice(-2)).toEqual(['2026-03-21 refused', '2026-03-20 open']);
  });
});
