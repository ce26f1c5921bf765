import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createContainer, type Container } from '../../src/lib/server/container.ts';
import type { ContainerOptions } from '../../src/lib/server/options.ts';
import { backUp } from '../../src/lib/server/db/backup.ts';
import { Seal } from '../../src/lib/server/db/seal.ts';
import { setUpWorkspace } from '../support/workspace.ts';

/** Secrets of a workspace in a folder: neither the database nor a backup of it gives any of them. */
const PASSWORD = 'hold fast 4471';
const HOOK = 'https://chat.example/hooks/9f2c-secret';
let dir: string;
let running: Container[];
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'early-bell-seal-'));
  running = [];
});
afterEach(async () => {
  await Promise.all(running.map((one) => one.stop()));
  rmSync(dir, { recursive: true, force: true });
});

async function opened(patch: Partial<ContainerOptions> = {}): Promise<Container> {
  const container = createContainer({
    ...{ dataDir: join(dir, 'data'), demo: false, origin: 'http://early-bell.test', logLevel: 'silent' },
    mail: { host: '127.0.0.1', port: 25 },
    channels: [],
    ...patch
  });
  await container.start();
  running.push(container);
  return container;
}
async function stopped(container: Container): Promise<void> {
  running = running.filter((one) => one !== container);
  await container.stop();
}
function keep(container: Container): { mail: string; receipts: string; key: string } {
  const { work, stores } = container;
  work.run(() => {
    stores.secrets.keep('mail 1', PASSWORD);
    stores.secrets.keep('chat', HOOK);
  });
  return work.run(() => ({
    mail: stores.secrets.read('mail 1')!,
    receipts: stores.secrets.made('receipts'),
    key: stores.actLinks.key().toString()
  }));
}

describe('secrets', () => {
  it('stand neither in the database nor in a backup, nor does the key', async () => {
    const container = await opened();
    const { coordinator } = setUpWorkspace(container);
    await container.auth.setPassword(coordinator.personId!, 'tide and time');
    const session = container.auth.signInAs(coordinator.personId!);
    const link = container.auth.makePasswordLink(coordinator.personId!, 2)!;
    const kept = keep(container);
    const file = join(dir, 'copy.sqlite');
    await backUp(join(dir, 'data'), file);
    const key = readFileSync(join(dir, 'data', 'early-bell.key'), 'utf8').trim();
    const secrets = [PASSWORD, HOOK, kept.receipts, kept.key, key, 'tide and time', session, link];
    for (const path of [
      file,
      join(dir, 'data', 'early-bell.sqlite'),
      join(dir, 'data', 'early-bell.sqlite-wal')
    ]) {
      const bytes = readFileSync(path);
      for (const secret of secrets) {
        expect(bytes.includes(secret), `${secret} in ${path}`).toBe(false);
        expect(bytes.includes(Buffer.from(secret, 'base64')), `${secret} in bytes`).toBe(false);
      }
    }
  });

  it('are there again after a start, and files are their user’s alone', async () => {
    const before = await opened();
    const kept = keep(before);
    await stopped(before);
    const after = await opened();
    expect(keep(after)).toEqual(kept);
    for (const name of ['early-bell.key', 'early-bell.sqlite', 'early-bell.sqlite-wal'])
      expect([name, statSync(join(dir, 'data', name)).mode & 0o077]).toEqual([name, 0]);
    expect(statSync(join(dir, 'data')).mode & 0o077).toBe(0);
  });

  it('are given again where the key is another, and the product says which', async () => {
    const before = await opened();
    const { receipts } = keep(before);
    await stopped(before);
    rmSync(join(dir, 'data', 'early-bell.key'));
    const lines: string[] = [];
    const after = await opened({ logLevel: 'warn', logTo: { write: (line: string) => lines.push(line) } });
    expect(after.stores.secrets.read('mail 1')).toBeNull();
    expect(after.work.run(() => after.stores.secrets.made('receipts'))).not.toBe(receipts);
    expect(lines.join('')).toContain('"closed":["mail 1","chat","receipts","act links"]');
  });

  it('are sealed anew when the key is changed', async () => {
    const [first, second] = [Buffer.alloc(32, 1).toString('base64'), Buffer.alloc(32, 2).toString('base64')];
    const a = await opened({ sealKeys: { now: first, before: null } });
    const kept = keep(a);
    await stopped(a);
    await stopped(await opened({ sealKeys: { now: second, before: first } }));
    const c = await opened({ sealKeys: { now: second, before: null } });
    expect(keep(c)).toEqual(kept);
  });

  it('that stood open are sealed at the start, and what stood open is overwritten', async () => {
    await stopped(await opened());
    const file = join(dir, 'data', 'early-bell.sqlite');
    const db = new Database(file);
    db.prepare("INSERT INTO secret (name, value) VALUES ('mail 2', ?)").run(Buffer.from(PASSWORD));
    db.close();
    expect(readFileSync(file).includes(PASSWORD)).toBe(true);
    const container = await opened();
    expect(container.stores.secrets.read('mail 2')).toBe(PASSWORD);
    await stopped(container);
    expect(readFileSync(file).includes(PASSWORD)).toBe(false);
  });

  it('open as nothing else, and not once a byte is changed', () => {
    const seal = new Seal({ now: Buffer.alloc(32, 7).toString('base64'), before: null });
    const sealed = seal.seal('text', Buffer.from('token'));
    expect(seal.open('text', sealed)!.toString()).toBe('token');
    expect(seal.open('chat', sealed)).toBeNull();
    for (const at of [1, 14, sealed.length - 1]) {
      const changed = Buffer.from(sealed);
      changed[at]! ^= 1;
      expect(seal.open('text', changed)).toBeNull();
    }
    expect(seal.open('text', sealed.subarray(0, 10))).toBeNull();
    expect(() => new Seal({ now: 'short', before: null })).toThrow('32 bytes');
  });
});
