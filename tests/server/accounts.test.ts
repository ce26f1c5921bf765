import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { deedsToUndo } from '../../src/lib/server/auth/undo.ts';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

/** Invitations and forgotten passwords over the real outbox; settings and statuses. */
let workspace: TestWorkspace;
beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
});
afterEach(() => workspace.close());

interface Mail {
  subject: string;
  text: string;
  to: string[];
}

async function mailbox(): Promise<Mail[]> {
  await workspace.container.outbox.drain();
  const { messages } = await workspace.container.postRoom.list('', 0, 50);
  return Promise.all(
    (messages as { id: number }[]).map(
      async ({ id }) =>
        (await (await fetch(`http://127.0.0.1:${workspace.standIn.httpPort}/messages/${id}`)).json()) as Mail
    )
  );
}

const tokenIn = (text: string) => /\/password\/(\S+)/.exec(text)![1]!;

describe('an invitation', () => {
  it('goes out by mail, works once and within three days, and its text is not kept', async () => {
    const { accounts, auth, db } = workspace.container;
    accounts.invite(workspace.people.Nora!, 'Ines');
    const [mail] = await mailbox();
    expect(mail).toMatchObject({ to: ['nora@test.example'], subject: 'Invitation to Test' });
    const token = tokenIn(mail!.text);
    expect(db.prepare('SELECT text, html FROM message').get()).toEqual({
      text: 'The link in this message is not kept.',
      html: ''
    });
    expect(JSON.stringify(db.prepare('SELECT * FROM one_time_link').all())).not.toContain(token);
    expect(auth.personOfLink(token)?.name).toBe('Nora');
    const session = await auth.choosePassword(token, 'wind and water');
    expect(auth.personOf(session)?.name).toBe('Nora');
    expect(auth.personOfLink(token)).toBeNull();
    await expect(auth.choosePassword(token, 'wind and water')).rejects.toMatchObject({ code: 'link-spent' });

    accounts.invite(workspace.people.Tess!, 'Ines');
    const late = tokenIn((await mailbox()).find(({ to }) => to[0] === 'tess@test.example')!.text);
    workspace.machine.at += 73 * 3_600_000;
    expect(auth.personOfLink(late)).toBeNull();
  });

  it('replaces an earlier one, and is refused for nobody, the deactivated and who has no address', () => {
    const { accounts, auth, people, committer } = workspace.container;
    const first = auth.makePasswordLink(workspace.people.Nora!, 72)!;
    auth.makePasswordLink(workspace.people.Nora!, 72);
    expect(auth.personOfLink(first)).toBeNull();
    expect(() => accounts.invite(99, 'Ines')).toThrow(expect.objectContaining({ code: 'person-gone' }));
    people.deactivate(workspace.coordinator, workspace.people.Nora!);
    expect(() => accounts.invite(workspace.people.Nora!, 'Ines')).toThrow(
      expect.objectContaining({ code: 'person-deactivated' })
    );
    committer.commit(workspace.coordinator, 'x', (writer) =>
      writer.update('person', workspace.people.Tess!, { email: null })
    );
    expect(() => accounts.invite(workspace.people.Tess!, 'Ines')).toThrow(
      expect.objectContaining({ code: 'no-address' })
    );
  });
});

describe('a forgotten password', () => {
  it('is reset by mail for who has one, at most every five minutes, and says nothing of who has none', async () => {
    const { accounts, auth } = workspace.container;
    await auth.setPassword(workspace.people.Ines!, 'tide and time');
    const before = await auth.signIn('ines@test.example', 'tide and time', '198.51.100.7');
    accounts.forgotten('nobody@test.example');
    accounts.forgotten('nora@test.example');
    accounts.forgotten(' INES@test.example ');
    accounts.forgotten('ines@test.example');
    const mails = await mailbox();
    expect(mails.map(({ to }) => to[0])).toEqual(['ines@test.example']);
    workspace.machine.at += 6 * 60_000;
    accounts.forgotten('ines@test.example');
    const newest = (await mailbox())
      .map(({ text }) => tokenIn(text))
      .find((token) => auth.personOfLink(token));
    await auth.choosePassword(newest!, 'another tide');
    // Whoever was signed in with the old one is out.
    expect(auth.personOf(before)).toBeNull();
    await expect(auth.signIn('ines@test.example', 'tide and time', '198.51.100.7')).rejects.toMatchObject({
      code: 'sign-in-failed'
    });
    await auth.signIn('ines@test.example', 'another tide', '198.51.100.7');
  });

  it('a session changes at every sign-in: the one before ends', async () => {
    const { auth } = workspace.container;
    await auth.setPassword(workspace.people.Ines!, 'tide and time');
    const first = await auth.signIn('ines@test.example', 'tide and time', '198.51.100.7');
    const second = await auth.signIn('ines@test.example', 'tide and time', '198.51.100.7', first);
    expect([auth.personOf(first), auth.personOf(second)?.name]).toEqual([null, 'Ines']);
    auth.signOutEverywhere(workspace.people.Ines!);
    expect(auth.personOf(second)).toBeNull();
  });
});

describe('statuses', () => {
  it('are renamed, moved between phases with what that means for the tasks, and put in order', () => {
    const { settings, stores, tasks } = workspace.container;
    const { result: id } = tasks.add(workspace.coordinator, {
      name: 'Task',
      description: '',
      projectId: null,
      ownerId: null,
      statusId: 2,
      priority: 'ordinary',
      dueDate: null,
      dueTime: null,
      startDate: null,
      startTime: null,
      private: false
    });
    settings.saveStatus(workspace.coordinator, {
      id: null,
      name: 'Being checked',
      phase: 'under way',
      position: 0
    });
    settings.saveStatus(workspace.coordinator, { id: 2, name: 'Reported', phase: 'finished', position: 9 });
    expect(stores.projects.statuses().map(({ name }) => name)).toEqual([
      'Being checked',
      'To do',
      'Finished',
      'Reported'
    ]);
    expect(stores.tasks.byId(id)).toMatchObject({
      status: 'Reported',
      phase: 'finished',
      finishedAt: expect.any(Number) as number
    });
    expect(() => settings.dropStatus(workspace.coordinator, 2, null)).toThrow(
      expect.objectContaining({ code: 'status-in-use' })
    );
    const { changeId } = settings.dropStatus(workspace.coordinator, 2, 1);
    expect(stores.tasks.byId(id)).toMatchObject({ status: 'To do', finishedAt: null });
    workspace.container.committer.undo(changeId, workspace.people.Ines!);
    expect(stores.tasks.byId(id)).toMatchObject({ status: 'Reported' });
    expect(() =>
      settings.saveStatus(workspace.coordinator, { id: 1, name: 'X', phase: 'closed', position: 0 })
    ).toThrow(expect.objectContaining({ code: 'status-last-of-phase' }));
    expect(() =>
      settings.saveStatus(workspace.coordinator, { id: 77, name: 'X', phase: 'closed', position: 0 })
    ).toThrow(expect.objectContaining({ code: 'status-gone' }));
  });
});

describe('undo', () => {
  it('asks for what the change asked for, of whoever takes it back', () => {
    type Undone = Parameters<typeof deedsToUndo>[0][number];
    const row = (table: Undone['table'], before: object | null, after: object | null, rowId = 1) =>
      ({ table, rowId, before, after }) as Undone;
    const asked = (row: Undone, { personId = 9, touch = true } = {}) =>
      deedsToUndo([row], { personId, mayTouch: () => touch });
    expect(asked(row('task', { name: 'a' }, { name: 'b' }))).toEqual([]);
    expect(asked(row('person', { name: 'A' }, { name: 'B' }))).toEqual(['look after people']);
    expect(asked(row('person', { role: 'owner' }, { role: 'administrator' }))).toContain('give access');
    expect(asked(row('person', { active: 1 }, { active: 0 }))).toContain('give access');
    expect(asked(row('person', { email: 'a' }, { email: 'b' }), { touch: false })).toContain('give access');
    expect(asked(row('person', { email: 'a' }, { email: 'b' }))).toEqual(['look after people']);
    expect(asked(row('setting', {}, {}))).toEqual(['change settings']);
    expect(asked(row('rule_version', null, {}))).toEqual(['make rules']);
    expect(asked(row('calendar_day', null, {}))).toEqual(['keep calendars']);
    expect(asked(row('hush', null, { subject_kind: 'rule' }))).toEqual(['make rules']);
    expect(asked(row('hush', null, { subject_kind: 'task' }))).toEqual([]);
    // What everybody may change of themselves they may take back.
    expect(asked(row('person', { zone: 'a' }, { zone: 'b' }), { personId: 1 })).toEqual([]);
    expect(asked(row('leave', null, { person_id: 1 }, 4), { personId: 1 })).toEqual([]);
    expect(asked(row('leave', null, { person_id: 2 }, 4), { personId: 1 })).toEqual(['look after people']);
    expect(asked(row('person', { email: 'a' }, { email: 'b' }), { personId: 1 })).toEqual([
      'look after people'
    ]);
  });

  it('never takes the last administrator away', () => {
    const { committer } = workspace.container;
    const { changeId } = committer.commit(workspace.coordinator, 'made', (writer) =>
      writer.update('person', workspace.people.Ines!, { role: 'administrator' })
    );
    expect(() => committer.undo(changeId, workspace.people.Ines!)).toThrow(
      expect.objectContaining({ code: 'last-administrator' })
    );
  });
});
