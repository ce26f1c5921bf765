import { blankDefinition, type RuleDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead } from '../../src/lib/core/rule/lead-model.ts';
import type { Container } from '../../src/lib/server/container.ts';
import { fillWorkspace } from '../many-tasks.ts';
import type { Figure } from './measure.ts';
import { inWorkspace } from './workspace.ts';

const TASKS = 100_000;
const EDITS = 300;
const NOW = Date.parse('2026-03-05T07:00Z');
const ACTOR = { personId: 1, source: 'person' as const };

/** Twenty rules: every third asks a condition, every fifth repeats, one waits and acts. */
const RULES: readonly RuleDefinition[] = Array.from({ length: 20 }, (_, i): RuleDefinition => {
  const blank = blankDefinition();
  const repeat = i % 5 === 0 ? { n: 1, unit: 'workday' as const, most: 5 } : null;
  const condition =
    i % 3 === 0 ? ({ field: 'priority', op: 'any of', value: ['high', 'pressing'] } as const) : null;
  return {
    ...blank,
    watch: { ...blank.watch, condition: condition && { ...condition, value: [...condition.value] } },
    leads: [offsetLead(`lead-${i}`, (i % 9) - 6, i % 2 === 0 ? 'workday' : 'day', { repeat })],
    steps: [{ ...blankTell(), to: [{ who: 'owner' }] }]
  };
});

/** The kept plan at a hundred thousand tasks and twenty rules: what one edit costs, and what a holiday does. */
export async function benchReplan(): Promise<Figure[]> {
  return inWorkspace(NOW, async (container) => {
    fillWorkspace(container, { tasks: TASKS, people: 200, projects: 40 });
    RULES.forEach((definition, i) => {
      const { result: id } = container.rules.add(ACTOR, `Rule ${i}`, definition);
      container.rules.turnOn(ACTOR, id, { name: `Rule ${i}`, description: '', definition });
    });
    const [planMs] = await timed(() => container.engine.tick());
    const edits = await editOneByOne(container);
    const { firstMs, wholeMs } = await addHoliday(container);
    const rows = container.db.prepare('SELECT count(*) FROM plan').pluck().get() as number;
    const figures: Omit<Figure, 'peer' | 'ratio'>[] = [
      {
        what: `the first plan, ${TASKS} tasks × ${RULES.length} rules`,
        ours: `${(planMs / 1000).toFixed(1)} s, ${rows} rings kept`
      },
      {
        what: 're-plan after the edit of one task',
        ours: `median ${quantile(edits, 0.5)} ms, p95 ${quantile(edits, 0.95)} ms, over ${EDITS} edits`,
        note: 'the tick after the edit, with everything it looks at'
      },
      {
        what: 'a holiday in the calendar that everybody goes by',
        ours: `the task that rings next is planned after ${firstMs.toFixed(0)} ms, the whole plan after ${(wholeMs / 1000).toFixed(1)} s`
      }
    ];
    // There is no library to hold these against: the bars are times.
    return figures.map((figure) => ({ peer: null, ratio: null, ...figure }));
  });
}

async function editOneByOne({ db, tasks, engine }: Container): Promise<number[]> {
  const listed = db
    .prepare('SELECT id FROM task WHERE set_aside IS NULL ORDER BY id')
    .pluck()
    .all() as number[];
  const ms: number[] = [];
  for (let i = 0; i < EDITS; i++) {
    const id = listed[(i * 7_919) % listed.length]!;
    tasks.edit(ACTOR, id, { dueDate: `2026-04-${String(1 + (i % 28)).padStart(2, '0')}` });
    const [took] = await timed(() => engine.tick());
    ms.push(took);
  }
  return ms;
}

async function addHoliday({
  db,
  committer,
  stores,
  engine
}: Container): Promise<{ firstMs: number; wholeMs: number }> {
  const [calendar] = stores.calendars.all();
  committer.commit(ACTOR, 'a holiday', (writer) =>
    writer.insert('calendar_day', {
      calendar_id: calendar!.id,
      date: '2026-03-12',
      name: 'A day off',
      intervals: '[]'
    })
  );
  const next = db.prepare('SELECT task_id FROM plan ORDER BY ring_at LIMIT 1').pluck().get() as number;
  const isStale = db.prepare<[number]>('SELECT 1 FROM replan WHERE task_id = ?').pluck();
  const began = performance.now();
  let firstMs = 0;
  const ticking = engine.tick();
  const watch = setInterval(() => {
    if (firstMs === 0 && isStale.get(next) === undefined) firstMs = performance.now() - began;
  }, 1);
  await ticking;
  clearInterval(watch);
  return { firstMs, wholeMs: performance.now() - began };
}

async function timed<T>(work: () => Promise<T>): Promise<[number, T]> {
  const began = performance.now();
  const result = await work();
  return [performance.now() - began, result];
}

function quantile(values: readonly number[], part: number): string {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(part * (sorted.length - 1))]!.toFixed(1);
}
