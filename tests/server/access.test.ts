import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openWorkspace, type TestWorkspace } from '../support/workspace.ts';

/** Sign-in, sessions and the one-time link; times are on the machine clock. */
let workspace: TestWorkspace;
const PASSWORD = 'tide and time';

beforeEach(async () => {
  workspace = await openWorkspace('2026-03-05T07:40:00Z');
  await workspace.container.auth.setPassword(workspace.people.Ines!, PASSWORD);
});
afterEach(() => workspace.close());

describe('sign-in', () => {
  it('takes the right password, however the address is spelled, and nothing else', async () => {
    const { auth } = workspace.container;
    const token = await auth.signIn(' INES@test.example ', PASSWORD);
    expect(auth.personOf(token)?.name).toBe('Ines');
    expect(auth.personOf('something else')).toBeNull();
    await expect(auth.signIn('ines@test.example', 'wrong')).rejects.toMatchObject({ code: 'sign-in-failed' });
    await expect(auth.signIn('nobody@test.example', PASSWORD)).rejects.toMatchObject({
      code: 'sign-in-failed'
    });
  });

  it('keeps neither tokens nor passwords as they are', async () => {
    const { auth, db } = workspace.container;
    const token = await auth.signIn('ines@test.example', PASSWORD);
    const stored = JSON.stringify([
      db.prepare('SELECT * FROM session').all(),
      db.prepare('SELECT * FROM password').all()
    ]);
    expect(stored).not.toContain(token);
    expect(stored).not.toContain(PASSWORD);
  });

  it('ends with the session’s time, and at sign-out', async () => {
    const { auth } = workspace.container;
    const first = await auth.signIn('ines@test.example', PASSWORD);
    const second = await auth.signIn('ines@test.example', PASSWORD);
    expect(second).not.toBe(first);
    auth.signOut(first);
    expect(auth.personOf(first)).toBeNull();
    workspace.machine.at += 15 * 86_400_000;
    expect(auth.personOf(second)).toBeNull();
  });

  it('is slowed after failures, for that address alone, and forgives', async () => {
    const { auth } = workspace.container;
    for (let i = 0; i < 4; i++) await expect(auth.signIn('ines@test.example', 'no')).rejects.toThrow();
    await expect(auth.signIn('ines@test.example', PASSWORD)).rejects.toMatchObject({
      code: 'sign-in-slowed'
    });
    await expect(auth.signIn('nora@test.example', 'no')).rejects.toMatchObject({ code: 'sign-in-failed' });
    workspace.machine.at += 60_000;
    await auth.signIn('ines@test.example', PASSWORD);
    await expect(auth.signIn('ines@test.example', 'no')).rejects.toMatchObject({ code: 'sign-in-failed' });
  });
});

describe('the first link', () => {
  it('works once, within a day, and only the newest', () => {
    const { auth } = workspace.container;
    const old = auth.makeFirstLink();
    const token = auth.makeFirstLink();
    expect(auth.isFirstLink(old)).toBe(false);
    auth.spendFirstLink(token);
    expect(() => auth.spendFirstLink(token)).toThrow(expect.objectContaining({ code: 'link-spent' }));
    const late = auth.makeFirstLink();
    workspace.machine.at += 25 * 3_600_000;
    expect(auth.isFirstLink(late)).toBe(false);
  });
});
