import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { blankDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead } from '../../src/lib/core/rule/lead-model.ts';
import { openApart } from '../open-apart.ts';
import { ServerLife, type StandInPlaces } from '../../tests/crash/server-life.ts';
import { fillWorkspace } from '../many-tasks.ts';
// @ts-expect-error plain scripts that start the application
import { startStandIn } from '../serve.mjs';
// @ts-expect-error as above
import { ensureBuild } from '../setup.mjs';
import type { Figure } from './measure.ts';

const NOTICES = 10_000;
/** Half a minute before nine: the server has that long to start and to answer its first pages. */
const BEFORE = Date.parse('2026-03-05T08:59:30Z');
const ACTOR = { personId: 1, source: 'person' as const };
const PAGES = ['/tasks', '/', '/rules', '/tasks/17', '/people'];
const PAGE_EVERY_MS = 100;
const LONGEST_MS = 180_000;

/** Ten thousand notices of one minute, each a message of its own, over the built server and the real stand-in, while somebody reads pages. */
export async function benchBurst(): Promise<Figure[]> {
  await (ensureBuild as () => Promise<void>)();
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-burst-'));
  const standIn = await (
    startStandIn as (dir: string) => Promise<StandInPlaces & { child: { kill(): void } }>
  )(join(folder, 'stand-ins'));
  await layOut(folder);
  const server = await ServerLife.over(folder, standIn);
  try {
    await server.start();
    await server.signIn(1);
    for (const page of PAGES) await server.read(page);
    const began = performance.now();
    const ms: number[] = [];
    let sent = 0;
    let firstAt = 0;
    while (sent < NOTICES && performance.now() - began < LONGEST_MS) {
      for (const page of PAGES) {
        const asked = performance.now();
        await server.read(page);
        const took = performance.now() - asked;
        ms.push(took);
        // As some people read who turn a page each second, together.
        await new Promise((resolve) => setTimeout(resolve, Math.max(0, PAGE_EVERY_MS - took)));
      }
      sent = await received(standIn.httpPort);
      if (sent > 0 && firstAt === 0) {
        firstAt = performance.now();
        // Only what was read while they left counts.
        ms.length = 0;
      }
    }
    const seconds = (performance.now() - firstAt) / 1_000;
    ms.sort((a, b) => a - b);
    const at = (part: number) => ms[Math.floor(part * (ms.length - 1))]!.toFixed(0);
    return [
      {
        what: `${NOTICES.toLocaleString('en')} notices of one minute, each a message of its own, while pages are read`,
        ours: `${sent.toLocaleString('en')} messages arrived within ${seconds.toFixed(0)} s; ${ms.length} pages, ten a second, median ${at(0.5)} ms, p95 ${at(0.95)} ms, longest ${at(1)} ms`,
        peer: null,
        ratio: null
      }
    ];
  } finally {
    await server.stop();
    standIn.child.kill();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function layOut(folder: string): Promise<void> {
  const container = openApart(folder, BEFORE);
  container.clock.set(Date.parse('2026-03-04T12:00Z'), false);
  fillWorkspace(container, { tasks: NOTICES * 2, people: 200, projects: 40 });
  container.db
    .prepare(
      `UPDATE task SET due_date = CASE WHEN id <= ? THEN '2026-03-05' ELSE '2026-06-01' END, owner_id = 1 + id % 200, finished_at = NULL,
       set_aside = NULL, set_aside_at = NULL, status_id = 1, private = 0`
    )
    .run(NOTICES);
  container.source.invalidate();
  const definition = {
    ...blankDefinition(),
    leads: [offsetLead('day', 0, 'day', { time: '09:00' })],
    steps: [{ ...blankTell(), to: [{ who: 'owner' as const }], gather: 'per task' as const }]
  };
  const { result: id } = container.rules.add(ACTOR, 'On the day', definition);
  container.rules.turnOn(ACTOR, id, { name: 'On the day', description: '', definition });
  await container.engine.moveClock(BEFORE - 60_000);
  container.clock.set(BEFORE, true);
  await container.stop();
}

async function received(httpPort: number): Promise<number> {
  const answer = await fetch(`http://127.0.0.1:${httpPort}/messages?limit=1`);
  return ((await answer.json()) as { total: number }).total;
}
