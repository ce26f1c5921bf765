import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { CodedError } from '../../src/lib/core/errors.ts';
import { Auth } from '../../src/lib/server/auth/auth.ts';
import { clientOf, SignInGate } from '../../src/lib/server/auth/gate.ts';
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
    const token = await auth.signIn(' INES@test.example ', PASSWORD, '198.51.100.7');
    expect(auth.personOf(token)?.name).toBe('Ines');
    expect(auth.personOf('something else')).toBeNull();
    await expect(auth.signIn('ines@test.example', 'wrong', '198.51.100.7')).rejects.toMatchObject({
      code: 'sign-in-failed'
    });
    await expect(auth.signIn('nobody@test.example', PASSWORD, '198.51.100.7')).rejects.toMatchObject({
      code: 'sign-in-failed'
    });
  });

  it('keeps neither tokens nor passwords as they are', async () => {
    const { auth, db } = workspace.container;
    const token = await auth.signIn('ines@test.example', PASSWORD, '198.51.100.7');
    const stored = JSON.stringify([
      db.prepare('SELECT * FROM session').all(),
      db.prepare('SELECT * FROM password').all()
    ]);
    expect(stored).not.toContain(token);
    expect(stored).not.toContain(PASSWORD);
  });

  it('ends with the session’s time, and at sign-out', async () => {
    const { auth } = workspace.container;
    const first = await auth.signIn('ines@test.example', PASSWORD, '198.51.100.7');
    const second = await auth.signIn('ines@test.example', PASSWORD, '198.51.100.7');
    expect(second).not.toBe(first);
    auth.signOut(first);
    expect(auth.personOf(first)).toBeNull();
    workspace.machine.at += 15 * 86_400_000;
    expect(auth.personOf(second)).toBeNull();
  });

  it('is slowed after failures, for that address alone, and forgives', async () => {
    const { auth } = workspace.container;
    for (let i = 0; i < 4; i++)
      await expect(auth.signIn('ines@test.example', 'no', '198.51.100.7')).rejects.toThrow();
    await expect(auth.signIn('ines@test.example', PASSWORD, '198.51.100.7')).rejects.toMatchObject({
      code: 'sign-in-slowed'
    });
    await expect(auth.signIn('nora@test.example', 'no', '198.51.100.7')).rejects.toMatchObject({
      code: 'sign-in-failed'
    });
    workspace.machine.at += 60_000;
    await auth.signIn('ines@test.example', PASSWORD, '198.51.100.7');
    await expect(auth.signIn('ines@test.example', 'no', '198.51.100.7')).rejects.toMatchObject({
      code: 'sign-in-failed'
    });
  });
});

describe('guessing', () => {
  const codes = (outcomes: PromiseSettledResult<string>[]) => {
    const counts: Record<string, number> = {};
    for (const one of outcomes) {
      const code = one.status === 'fulfilled' ? 'in' : (one.reason as CodedError).code;
      counts[code] = (counts[code] ?? 0) + 1;
    }
    return counts;
  };

  it('many at once is no more than many after each other', async () => {
    const { auth } = workspace.container;
    // From as many places: at one address four are free, then one must wait.
    const tries = Array.from({ length: 25 }, (_, i) =>
      auth.signIn('ines@test.example', 'no', `192.0.2.${i}`)
    );
    const counts = codes(await Promise.allSettled(tries));
    expect(counts['sign-in-failed']).toBeLessThanOrEqual(4);
    expect(workspace.container.stores.sessions.failures('ines@test.example')!.count).toBeLessThanOrEqual(4);
  });

  it('from one place keeps nobody of another place out, and is logged', async () => {
    const refused: string[] = [];
    const auth = new Auth(
      workspace.container.work,
      workspace.container.stores,
      workspace.machine,
      ({ code, address, client }) => refused.push(`${code} ${address} ${client}`)
    );
    const guess = (i: number) => auth.signIn(`p${i}@test.example`, 'no', '192.0.2.1');
    const flood = Promise.allSettled(Array.from({ length: 500 }, (_, i) => guess(i)));
    await expect(auth.signIn('ines@test.example', PASSWORD, '198.51.100.7')).resolves.toBeTypeOf('string');
    // One is at work and one waits; the rest is told so at once.
    expect(codes(await flood)).toEqual({ 'sign-in-failed': 2, 'sign-in-busy': 498 });
    expect(refused.at(-1)).toMatch(/^sign-in-\w+ p\d+@test.example 192.0.2.1$/);
  });

  it('has an end for one client, at whatever addresses, until a while has passed', () => {
    let now = 0;
    const gate = new SignInGate(() => now);
    for (let i = 0; i < 50; i++) {
      gate.check('192.0.2.1');
      gate.fail('192.0.2.1');
    }
    expect(() => gate.check('192.0.2.1')).toThrow('Wait 900 seconds');
    expect(() => gate.check('192.0.2.2')).not.toThrow();
    // One that proves right counts no more.
    gate.right('192.0.2.1');
    expect(() => gate.check('192.0.2.1')).not.toThrow();
    gate.fail('192.0.2.1');
    now += 15 * 60_000;
    expect(() => gate.check('192.0.2.1')).not.toThrow();
  });

  it('leaves no rows behind for longer than a day', async () => {
    const { auth, stores, db } = workspace.container;
    for (let i = 0; i < 3; i++)
      await expect(auth.signIn(`p${i}@test.example`, 'no', '192.0.2.1')).rejects.toThrow();
    stores.sessions.addSession('long ago', workspace.people.Nora!, workspace.machine.at + 1000);
    workspace.machine.at += 2 * 86_400_000;
    await expect(auth.signIn('new@test.example', 'no', '192.0.2.1')).rejects.toThrow();
    expect(db.prepare('SELECT email FROM sign_in_failure').pluck().all()).toEqual(['new@test.example']);
    expect(db.prepare('SELECT count(*) FROM session').pluck().get()).toBe(0);
  });

  it.each([
    ['198.51.100.7', '198.51.100.7'],
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2'],
    ['2001:db8:1:2::9', '2001:db8:1:2'],
    ['::ffff:198.51.100.7', '::ffff:198.51.100.7']
  ])('%s is the client %s', (address, client) => expect(clientOf(address)).toBe(client));
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
