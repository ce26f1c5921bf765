import type { Container } from '../../src/lib/server/container.ts';
import { fillWorkspace } from '../many-tasks.ts';
import { inWorkspace } from './workspace.ts';

/** What is measured of digests: built before it is run, as it is for those who use it. */
export interface DigestsLeft {
  seconds: number;
  /** Of these, computing; the disk takes its own time for what is written. */
  computing: number;
  sent: number;
  rows: number;
}

/** A Thursday, an hour before the digests leave. */
const BEFORE = Date.parse('2026-03-05T07:00Z');
const LEAVE = Date.parse('2026-03-05T08:00Z');

/** Everybody’s own digest at one hour: computed, written, and queued with the links in its rows. */
export function digestsLeft(people: number, tasks: number): Promise<DigestsLeft> {
  return inWorkspace(BEFORE, async (container) => {
    fillWorkspace(container, { tasks, people, projects: 40 });
    container.db.prepare(`UPDATE person SET digest_due = '08:00', digest_overdue = '08:00'`).run();
    container.source.invalidate();
    await settled(container, people);
    container.clock.set(LEAVE, false);
    const began = performance.now();
    const cpu = process.cpuUsage();
    await container.engine.tick();
    const seconds = (performance.now() - began) / 1_000;
    const computing = process.cpuUsage(cpu).user / 1_000_000;
    const { sent, rows } = container.db
      .prepare(
        `SELECT count(*) FILTER (WHERE state = 'sent') AS sent, sum(json_extract(stages, '$.shown')) AS rows FROM digest_run`
      )
      .get() as { sent: number; rows: number };
    return { seconds, computing, sent, rows };
  });
}

/** Nothing is left to be planned. */
async function settled({ engine, db }: Container, people: number): Promise<void> {
  await engine.tick();
  const { n } = db.prepare('SELECT count(*) AS n FROM digest_plan').get() as { n: number };
  if (n !== people) throw new RangeError(`${n} digests are planned, not ${people}`);
}
