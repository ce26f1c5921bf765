import Database from 'better-sqlite3';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createContainer, type Container } from '../../src/lib/server/container.ts';
import { isMachineFault, machineFaultWaitMs } from '../../src/lib/server/db/machine-fault.ts';
import type { Actor } from '../../src/lib/server/workspace/commit.ts';
import { startMailStandIn, type MailStandIn } from '../../standin/mail.ts';
import { StillClock, lead, ruleOf, setUpWorkspace, taskInput } from '../support/workspace.ts';

/** A disk that is full and a file that somebody else holds: what was under way is taken back whole and done when the machine can. */
const AT = Date.parse('2026-03-05T07:40:00Z');
const EVENING = Date.parse('2026-03-06T20:00:00Z');
let folder: string;
let standIn: MailStandIn;
let container: Container;
let coordinator: Actor;

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'early-bell-faults-'));
  standIn = await startMailStandIn({ smtpPort: 0, httpPort: 0 });
  container = createContainer({
    ...{ dataDir: folder, demo: true, startAtMs: AT, machine: new StillClock(), chance: () => 0.5 },
    mail: { host: '127.0.0.1', port: standIn.smtpPort },
    postRoom: { mail: `http://127.0.0.1:${standIn.httpPort}` },
    origin: 'http://early-bell.test',
    logLevel: 'silent'
  });
  container.clock.set(AT, false);
  const made = setUpWorkspace(container);
  coordinator = made.coordinator;
  for (let i = 0; i < 12; i++)
    container.tasks.add(
      coordinator,
      taskInput({ name: `Task ${i}`, dueDate: '2026-03-06', ownerId: made.people.Ines! })
    );
  const definition = ruleOf([lead(0, 'day')], { subject: '‹task›' });
  const { result: id } = container.rules.add(coordinator, 'On the day', definition);
  container.rules.turnOn(coordinator, id, { name: 'On the day', description: '', definition });
});
afterEach(async () => {
  container.db.pragma('max_page_count = 1000000');
  await container.stop();
  await standIn.close();
  rmSync(folder, { recursive: true });
});

const notices = () =>
  container.db.prepare('SELECT state, count(*) AS count FROM notice GROUP BY state ORDER BY state').all() as {
    state: string;
    count: number;
  }[];
const arrived = async () => (await container.postRoom.list('', 0, 100)).messages;

/** Everything rang once and arrived once. */
async function expectAllOnce(): Promise<void> {
  await container.engine.moveClock(EVENING);
  expect(notices()).toEqual([{ state: 'sent', count: 12 }]);
  const messages = await arrived();
  expect(messages.map(({ subject }) => subject).sort()).toEqual(
    Array.from({ length: 12 }, (_, i) => `Task ${i}`).sort()
  );
  expect(messages.every(({ copies }) => copies === 1)).toBe(true);
  expect(container.db.pragma('integrity_check', { simple: true })).toBe('ok');
}

describe('a disk that is full', () => {
  /** No page more than there are, and `more`. */
  const fill = (more: number) => {
    // What was freed must not give room.
    container.db.exec('VACUUM');
    const pages = container.db.pragma('page_count', { simple: true }) as number;
    container.db.pragma(`max_page_count = ${pages + more}`);
  };

  it.each([0, 1, 2, 4, 8])(
    'stops ringing in the middle (%i pages left); nothing of it is taken for a fault of a rule, and it goes on when there is room',
    async (more) => {
      fill(more);
      let failure: unknown = null;
      try {
        await container.engine.moveClock(EVENING);
      } catch (error) {
        failure = error;
      }
      if (failure !== null) {
        expect(isMachineFault(failure)).toBe(true);
        // No notice has failed for it, and no run was ended.
        expect(notices().map(({ state }) => state)).not.toContain('failed');
        expect(container.db.prepare("SELECT * FROM journal WHERE kind = 'fault'").all()).toEqual([]);
      } else expect(more).toBeGreaterThan(4);
      container.db.pragma('max_page_count = 1000000');
      await expectAllOnce();
    }
  );

  it('refuses a change whole', () => {
    fill(0);
    const before = container.stores.tasks.count();
    const description = 'x'.repeat(90_000);
    expect(() => container.tasks.add(coordinator, taskInput({ name: 'Large', description }))).toThrow(
      expect.objectContaining({ code: 'SQLITE_FULL' })
    );
    expect(container.stores.tasks.count()).toBe(before);
    container.db.pragma('max_page_count = 1000000');
    container.tasks.add(coordinator, taskInput({ name: 'Large', description }));
    expect(container.stores.tasks.count()).toBe(before + 1);
  });
});

describe('a database that somebody else holds', () => {
  it('is waited for; then what was to be done is done once', async () => {
    container.db.pragma('busy_timeout = 20');
    const other = new Database(join(folder, 'early-bell.sqlite'));
    other.exec('BEGIN IMMEDIATE');
    await expect(container.engine.moveClock(EVENING)).rejects.toSatisfy(isMachineFault);
    expect(notices()).toEqual([]);
    other.exec('ROLLBACK');
    other.close();
    await expectAllOnce();
  });

  it('while messages are under way, loses none of their ends', async () => {
    container.db.pragma('busy_timeout = 20');
    const other = new Database(join(folder, 'early-bell.sqlite'));
    // Held from the moment at which the first message was taken over there.
    let held = false;
    container.outbox.attachMeter(() => {
      if (!held) other.exec('BEGIN IMMEDIATE');
      held = true;
    });
    await expect(container.engine.moveClock(EVENING)).rejects.toSatisfy(isMachineFault);
    other.exec('ROLLBACK');
    other.close();
    await expectAllOnce();
  });
});

it('is tried again after longer and longer waits', () => {
  expect([1, 2, 3, 4, 5, 6, 20].map(machineFaultWaitMs)).toEqual([
    1_000, 2_000, 4_000, 8_000, 16_000, 30_000, 30_000
  ]);
  expect(isMachineFault(Object.assign(new Error('x'), { code: 'SQLITE_CONSTRAINT_UNIQUE' }))).toBe(false);
  expect(isMachineFault(new Error('x'))).toBe(false);
});
