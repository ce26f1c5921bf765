import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { createContainer, type Container } from '../../src/lib/server/container.ts';
import { backUp, restore } from '../../src/lib/server/db/backup.ts';
import { tryClaim } from '../../src/lib/server/db/claim.ts';
import type { CatchUpAnswer } from '../../src/lib/server/engine/catch-up.ts';
import { startMailStandIn, type MailStandIn } from '../../standin/mail.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { StillClock, lead, ruleOf, setUpWorkspace, taskInput } from '../support/workspace.ts';

/** A workspace in a folder: copied while it runs, put back, and asked about what may have left meanwhile. */
let folder: string;
let standIn: MailStandIn;
let container: Container;
const machine = new StillClock();
const AT = Date.parse('2026-03-05T07:40:00Z');

const open = () =>
  createContainer({
    ...{ dataDir: folder, demo: true, startAtMs: AT, machine, chance: () => 0.5, logLevel: 'silent' },
    mail: { host: '127.0.0.1', port: standIn.smtpPort },
    postRoom: { mail: `http://127.0.0.1:${standIn.httpPort}` },
    origin: 'http://early-bell.test'
  });
const subjects = async () =>
  (await container.postRoom.list('', 0, 100)).messages.map(({ subject }) => subject).sort();
const viewer = { zone: zoneNamed('Europe/Lisbon'), personId: null };

/** From a moment on the machine's time passes only when it is told to; what was to be done by then is done. */
function beating(at: string): (wallMs: number, steadyMs?: number) => Promise<void> {
  const beats: (() => void)[] = [];
  let steady = 0;
  machine.at = Date.parse(at);
  machine.steadyMs = () => steady;
  machine.setTimeout = (work?: () => void) => {
    if (work) beats.push(work);
    return null;
  };
  return async (wallMs, steadyMs = wallMs) => {
    machine.at += wallMs;
    steady += steadyMs;
    for (const work of beats.splice(0)) work();
    await new Promise((resolve) => setTimeout(resolve, 20));
  };
}

/** Lets it beat until every message has left. */
async function delivered(beat: ReturnType<typeof beating>): Promise<void> {
  const left = async () => {
    await beat(0);
    return container.stores.outbox.unfinished();
  };
  await expect.poll(left).toBe(0);
}

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'early-bell-backup-'));
  standIn = await startMailStandIn({ smtpPort: 0, httpPort: 0 });
  container = open();
  container.clock.set(AT, false);
  const { people, coordinator } = setUpWorkspace(container);
  const add = (name: string, dueDate: string) =>
    container.tasks.add(coordinator, taskInput({ name, dueDate, ownerId: people.Ines! }));
  add('First', '2026-03-06');
  add('Second', '2026-03-09');
  add('Third', '2026-03-11');
  const definition = ruleOf([lead(0, 'day')], { subject: '‹task›' });
  const { result: id } = container.rules.add(coordinator, 'On the day', definition);
  container.rules.turnOn(coordinator, id, { name: 'On the day', description: '', definition });
  await container.engine.moveClock(Date.parse('2026-03-06T20:00:00Z'));
});
afterEach(async () => {
  await container.stop();
  await standIn.close();
  rmSync(folder, { recursive: true });
});

describe('a backup', () => {
  const file = () => join(folder, 'copies', 'backup.sqlite');

  it('made while the workspace is open is whole, and restored it asks before anything leaves', async () => {
    const facts = await backUp(folder, file());
    expect(facts).toMatchObject({ tasks: 3, until: Date.parse('2026-03-06T20:00:00Z') });
    // What the backup does not know: the second one rings.
    await container.engine.moveClock(Date.parse('2026-03-09T12:00:00Z'));
    expect(await subjects()).toEqual(['First', 'Second']);
    await container.stop();

    const { before } = restore(folder, file());
    expect(existsSync(before!)).toBe(true);
    container = open();
    container.clock.set(Date.parse('2026-03-09T12:00:00Z'), false);
    await container.start();
    expect(container.engine.started).toBe(false);
    await expect(container.engine.moveClock(Date.parse('2026-03-20T12:00:00Z'))).rejects.toThrow(
      'Rules are paused. Decide on the Bell tower about the missed notices.'
    );
    const { standing } = container.tower.view(viewer);
    expect(standing).toMatchObject({ why: 'restored', count: 1, underWay: 0 });
    expect(standing!.listed.map(({ task }) => task)).toEqual(['Second']);
  });

  const answered = async (answer: CatchUpAnswer, at = '2026-03-09T12:00:00Z') => {
    await backUp(folder, file());
    await container.stop();
    restore(folder, file());
    container = open();
    container.clock.set(Date.parse(at), false);
    await container.start();
    // Whoever else sets the engine going, an undo, does not make it ring before somebody has answered.
    await container.engine.tick();
    expect(await subjects()).toEqual(['First']);
    container.engine.answer(answer);
    expect(container.tower.view(viewer).standing).toBeNull();
    await container.engine.tick();
    await container.engine.moveClock(Date.parse('2026-03-12T12:00:00Z'));
    return subjects();
  };

  it('passed over rings nothing of that time, and everything after', async () => {
    expect(await answered('pass over')).toEqual(['First', 'Third']);
    const [second] = container.stores.notices.ofTask(2);
    expect(second).toMatchObject({ state: 'unrung', reason: 'too late' });
    expect(() => container.engine.answer('send')).toThrow('Somebody has already answered. Rules run again.');
  });

  it('passes over what should have rung a moment ago too', async () => {
    expect(await answered('pass over', '2026-03-09T09:00:12Z')).toEqual(['First', 'Third']);
  });

  it('answered with send rings it all', async () => {
    expect(await answered('send')).toEqual(['First', 'Second', 'Third']);
  });

  it('answered with gather rings it at the next opening', async () => {
    expect(await answered('gather')).toEqual(['First', 'Second', 'Third']);
    const [second] = container.stores.notices.ofTask(2);
    // Monday at noon is inside working hours: the next opening is the next morning's.
    expect(second).toMatchObject({ leavesAt: Date.parse('2026-03-10T09:00:00Z') });
  });

  it('is not put in the place of a workspace that is open, and what is none is refused', async () => {
    await backUp(folder, file());
    const claim = tryClaim(folder)!;
    expect(() => restore(folder, file())).toThrow('Stop the application first');
    claim.release();
    writeFileSync(join(folder, 'none.sqlite'), 'this is no database at all, however long it may be');
    expect(() => restore(folder, join(folder, 'none.sqlite'))).toThrow('is damaged: ');
    expect(() => restore(folder, join(folder, 'gone.sqlite'))).toThrow('is damaged: ');
    await expect(backUp(join(folder, 'nowhere'), file())).rejects.toThrow('is damaged: ');
    expect(readdirSync(folder).filter((name) => name.includes('before'))).toEqual([]);
  });
});

describe('a wall clock that jumps while the application runs', () => {
  it.each([-26 * 3_600_000, -3_600_000, 3_600_000])('by %i ms, makes it stand still', async (jump) => {
    await container.stop();
    container = createContainer({ ...container.options, demo: false });
    const beat = beating('2026-03-06T20:00:00Z');
    await container.start();
    for (const wall of [1_000, 59 * 60_000, jump]) {
      await beat(wall, wall === jump ? 0 : wall);
      expect(container.engine.standing === null).toBe(wall !== jump);
    }
    // What rang before rings no second time when the clock is behind it.
    expect(await subjects()).toEqual(['First']);
  });

  it('makes the engine stand still and ask', async () => {
    await container.stop();
    container = createContainer({ ...container.options, demo: false });
    const beat = beating('2026-03-06T20:00:00Z');
    await container.start();
    await beat(1_000, 1_000);
    await beat(60_000, 60_000);
    expect(container.engine.standing).toBeNull();
    await beat(4 * 86_400_000, 1_000);
    expect(container.engine.standing).toMatchObject({ why: 'the clock jumped' });
    expect(container.tower.view(viewer).standing).toMatchObject({ count: 1 });
    expect(await subjects()).toEqual(['First']);
    container.engine.answer('pass over');
    await beat(1_000, 1_000);
    expect(container.stores.notices.ofTask(2)[0]).toMatchObject({ state: 'unrung' });
  });
});

describe('a wall clock that has jumped', () => {
  it('is seen by whatever sets the engine going first: an undo rings nothing of the days between', async () => {
    await container.stop();
    container = createContainer({ ...container.options, demo: false });
    const beat = beating('2026-03-06T20:00:00Z');
    await container.start();
    await beat(1_000, 1_000);
    machine.at += 4 * 86_400_000;
    await container.engine.tick();
    expect(container.engine.standing).toMatchObject({ why: 'the clock jumped' });
    expect(await subjects()).toEqual(['First']);
  });
});

describe('a summer-time night', () => {
  it('is no jump, and nine o’clock stays nine o’clock on the wall', async () => {
    // Lisbon goes from UTC to UTC+1 on 29 March 2026 at 01:00 UTC (tz database).
    const add = (name: string, dueDate: string) =>
      container.tasks.add(
        { personId: 1, source: 'person' },
        taskInput({
          name,
          dueDate,
          ownerId: container.stores.people.all().find((one) => one.name === 'Ines')!.id
        })
      );
    add('Before', '2026-03-27');
    add('After', '2026-03-30');
    await container.stop();
    const beat = beating('2026-03-27T06:00:00Z');
    container = createContainer({ ...container.options, demo: false });
    await container.start();
    while (machine.at < Date.parse('2026-03-30T12:00:00Z')) {
      await beat(30 * 60_000);
      expect(container.engine.standing).toBeNull();
    }
    const rang = container.db
      .prepare<[], string>(
        `SELECT t.name || ' ' || strftime('%d %H:%M', n.ring_at / 1000, 'unixepoch') FROM notice n JOIN ring g ON g.id = n.ring_id
         JOIN task t ON t.id = g.subject_id WHERE t.name IN ('Before', 'After') AND n.state IN ('sending', 'sent') ORDER BY n.ring_at`
      )
      .pluck()
      .all();
    expect(rang).toEqual(['Before 27 09:00', 'After 30 08:00']);
    await delivered(beat);
  });
});

describe('a time in which it did not run', () => {
  it('is told on the Bell tower, with what became of the rings of that time', async () => {
    await container.stop();
    const beat = beating('2026-03-08T20:00:00Z');
    const lives = async () => {
      container = createContainer({ ...container.options, demo: false });
      await container.start();
      await delivered(beat);
    };
    await lives();
    expect(container.tower.view(viewer).downtime).toBeNull();
    await container.stop();
    // The second task rings on the ninth at nine; it comes back at one.
    machine.at = Date.parse('2026-03-09T13:00:00Z');
    await lives();
    await expect.poll(() => container.stores.notices.ofTask(2)[0]?.state).toMatch(/sent|sending/);
    expect(container.tower.view(viewer).downtime).toMatchObject({
      ...{ from: 'Sun 8 Mar, 20:00', until: 'Mon 9 Mar, 13:00', left: 1, waiting: 0, unrung: 0 },
      listed: [{ at: 'Mon 9 Mar, 09:00', task: 'Second', person: 'Ines' }]
    });
  });
});
