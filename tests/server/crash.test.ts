import { rmSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { differences, foretell, layOut, live, type Outcome } from '../crash/harness.ts';
import { CRASH_POINTS } from '../crash/points.ts';
import { killServer } from '../crash/server-harness.ts';
import { killSweep } from '../crash/sweep-harness.ts';
// @ts-expect-error a plain script
import { ensureBuild } from '../../scripts/setup.mjs';

/** The engine killed with SIGKILL: one life at each point. `npm run crash` does the same many times. */
let laidOut: string;
let right: Outcome;
beforeAll(async () => {
  await (ensureBuild as () => Promise<void>)();
  laidOut = await layOut();
  right = (await live(laidOut, null))!;
}, 300_000);
afterAll(() => rmSync(laidOut, { recursive: true }));

describe('killed', () => {
  it('nowhere, it tells everybody of everything', () => {
    expect(right.unfinished).toBe(0);
    expect(right.notices.filter((notice) => notice.includes(' sent ')).length).toBeGreaterThan(40);
    expect(right.changes.filter((change) => change.endsWith('pressing')).length).toBeGreaterThan(10);
    expect(right.inDoubt.size).toBe(0);
  });

  it('nowhere, it tells what was foretold', async () => {
    const sent = right.notices.filter((notice) => notice.endsWith(' sent '));
    expect([...sent].sort()).toEqual(await foretell(laidOut));
  });

  // Each life is a process of its own: they go on side by side.
  it.concurrent.each(CRASH_POINTS.map((point, i) => [point, point === 'in a backup' ? 1 : 3 + i] as const))(
    '%s, it loses nothing and says nothing twice that is not in doubt',
    async (point, nth) => {
      const found = await live(laidOut, { point, nth });
      expect(found, 'the point was not reached').not.toBeNull();
      expect(differences(right, found!)).toEqual([]);
      // What was accepted and not recorded leaves again, and is known as a repeat.
      const repeated = [...found!.arrived.values()].filter((copies) => copies > 1).length;
      if (point === 'accepted, not settled') expect(repeated).toBeGreaterThan(0);
    },
    120_000
  );
});

describe('the web server, killed under load with faults on', () => {
  it('keeps everything that it had confirmed, and tells nobody twice that is not in doubt', async () => {
    // Drawn by chance, but the same chance at every run.
    let seed = 20_260_305;
    const chance = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
    const { wrong, edits, arrived } = await killServer(4, chance);
    expect(wrong).toEqual([]);
    expect(edits).toBeGreaterThan(0);
    expect(arrived).toBeGreaterThan(0);
  }, 180_000);
});

describe('a sweep of the web server, killed half-way', () => {
  // One after the other: laying thousands of tasks out takes the very moment in which another is to be killed.
  it.each([
    ['continue at the next start, and does nothing twice', 'go on', 'running', 'done'],
    ['undo at the next start, where it says so', 'undo', 'running', 'undone'],
    ['in its undo, goes on with that', 'go on', 'undoing', 'undone']
  ] as const)(
    '%s',
    async (_, cutOff, when, last) => {
      const { killed, ended, tasks } = await killSweep(cutOff, when);
      expect(killed.run).toBe(when);
      expect(killed.archived).toBeGreaterThan(0);
      expect(killed.archived).toBeLessThan(tasks);
      // What is recorded is what was done, to the task.
      expect(killed.done).toBe(killed.archived);
      const all = last === 'done' ? tasks : 0;
      expect(ended).toEqual({ run: last, archived: all, done: all, twice: 0 });
    },
    180_000
  );
});
