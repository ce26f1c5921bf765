import { MS_PER_DAY, formatDay } from '../../src/lib/core/time/day.ts';
import type { Container } from '../../src/lib/server/container.ts';
import type { Figure } from './measure.ts';
import { BENCHER, fillWithVeryMany, turnOnRules } from './very-many.ts';
import { inWorkspace } from './workspace.ts';

const RULES = 3;
const IDLE_TICKS = 300;
const EDITS = 200;
/** How many tasks ring at the minute that is measured. */
const RINGING = 500;
const NOW = Date.parse('2026-03-05T07:00Z');

/** The engine over so many tasks: a tick in which nothing rings, an edit, and a minute in which some ring. */
export function benchScale(tasks: number): () => Promise<Figure[]> {
  return () =>
    inWorkspace(NOW, async (container) => {
      fillWithVeryMany(container, tasks);
      ringAtNine(container);
      turnOnRules(container, RULES);
      const began = performance.now();
      await container.engine.tick();
      const planSeconds = (performance.now() - began) / 1_000;
      const idle = await timesOf(IDLE_TICKS, () => container.engine.tick());
      const edits = await editAll(container);
      const rang = performance.now();
      container.clock.set(Date.parse('2026-03-05T09:00Z'), false);
      await container.engine.tick();
      const ringMs = performance.now() - rang;
      const notices = container.db.prepare('SELECT count(*) FROM notice').pluck().get() as number;
      const rings = container.db.prepare('SELECT count(*) FROM plan').pluck().get() as number;
      const memory = Math.round(process.memoryUsage().rss / 2 ** 20);
      return [
        {
          what: `the engine over ${tasks.toLocaleString('en')} tasks, ${RULES} rules, ${rings.toLocaleString('en')} rings kept`,
          ours:
            `idle tick p95 ${quantile(idle, 0.95)} ms; edit and tick p95 ${quantile(edits, 0.95)} ms; ` +
            `${notices} notices of one minute in ${ringMs.toFixed(0)} ms (${(ringMs / notices).toFixed(2)} ms each); ` +
            `first plan ${planSeconds.toFixed(1)} s; process ${memory} MB`,
          peer: null,
          ratio: null
        }
      ];
    });
}

/** At nine so many tasks ring, however many there are: none other is due that day or on one of the next. */
function ringAtNine({ db, work, clock, source }: Container): void {
  const day = (days: number) => formatDay(Math.floor(clock.now() / MS_PER_DAY) + days);
  work.run(() => {
    db.prepare(`UPDATE task SET due_date = ? WHERE due_date BETWEEN ? AND ?`).run(day(40), day(0), day(5));
    db.prepare(
      `UPDATE task SET due_date = ? WHERE id IN (SELECT id FROM task WHERE set_aside IS NULL AND finished_at IS NULL
       AND owner_id IS NOT NULL ORDER BY id LIMIT ?)`
    ).run(day(0), RINGING);
  });
  source.invalidate();
}

async function editAll({ db, tasks, engine }: Container): Promise<number[]> {
  const ids = db
    .prepare<[], number>(
      'SELECT id FROM task WHERE set_aside IS NULL AND finished_at IS NULL ORDER BY id DESC LIMIT 100000'
    )
    .pluck()
    .all();
  let i = 0;
  return timesOf(EDITS, async () => {
    const id = ids[(i++ * 7_919) % ids.length]!;
    tasks.edit(BENCHER, id, { dueDate: `2026-05-${String(1 + (i % 28)).padStart(2, '0')}` });
    await engine.tick();
  });
}

async function timesOf(times: number, work: () => Promise<void>): Promise<number[]> {
  const ms: number[] = [];
  for (let i = 0; i < times; i++) {
    const began = performance.now();
    await work();
    ms.push(performance.now() - began);
  }
  return ms;
}

function quantile(values: readonly number[], part: number): string {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(part * (sorted.length - 1))]!.toFixed(1);
}
