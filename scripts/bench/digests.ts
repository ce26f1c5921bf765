import type { Container } from '../../src/lib/server/container.ts';
import { fillWorkspace } from '../many-tasks.ts';
import type { Figure } from './measure.ts';
import { inWorkspace } from './workspace.ts';

const PEOPLE = 2_000;
const TASKS = 100_000;
/** A Thursday, an hour before the digests leave. */
const BEFORE = Date.parse('2026-03-05T07:00Z');
const LEAVE = Date.parse('2026-03-05T08:00Z');

/** Everybody’s own digest at one hour: computed, written, and queued with the links in its rows. */
export function benchDigests(): Promise<Figure[]> {
  return inWorkspace(BEFORE, async (container) => {
    fillWorkspace(container, { tasks: TASKS, people: PEOPLE, projects: 40 });
    container.db.prepare(`UPDATE person SET digest_due = '08:00', digest_overdue = '08:00'`).run();
    container.source.invalidate();
    await settled(container);
    container.clock.set(LEAVE, false);
    const began = performance.now();
    const cpu = process.cpuUsage();
    await container.engine.tick();
    const seconds = (performance.now() - began) / 1_000;
    // The disk takes its own time for what is written.
    const computed = process.cpuUsage(cpu).user / 1_000_000;
    const { sent, rows } = container.db
      .prepare(
        `SELECT count(*) FILTER (WHERE state = 'sent') AS sent, sum(json_extract(stages, '$.shown')) AS rows FROM digest_run`
      )
      .get() as { sent: number; rows: number };
    return [
      {
        what: `digests of ${PEOPLE.toLocaleString('en')} people over ${TASKS.toLocaleString('en')} tasks, all at one hour`,
        ours: `${seconds.toFixed(1)} s (${computed.toFixed(1)} s of it computing) for ${sent.toLocaleString('en')} messages with ${rows.toLocaleString('en')} rows (bar: 5 s)`,
        peer: null,
        ratio: null
      }
    ];
  });
}

/** Nothing is left to be planned. */
async function settled({ engine, db }: Container): Promise<void> {
  await engine.tick();
  const { n } = db.prepare('SELECT count(*) AS n FROM digest_plan').get() as { n: number };
  if (n !== PEOPLE) throw new RangeError(`${n} digests are planned, not ${PEOPLE}`);
}
