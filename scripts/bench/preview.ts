import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { blankDefinition } from '../../src/lib/core/rule/model.ts';
import { blankTell } from '../../src/lib/core/rule/step-model.ts';
import { offsetLead, type Lead } from '../../src/lib/core/rule/lead-model.ts';
import type { Container } from '../../src/lib/server/container.ts';
import type { Asked } from '../../src/lib/server/tryout/asked.ts';
import { fillWorkspace } from '../many-tasks.ts';
import { openApart } from '../open-apart.ts';
// @ts-expect-error plain scripts that start the application
import { ensureBuild } from '../setup.mjs';
import { ACTOR, NOW, written } from './edited-rule.ts';
import { ratio, type Figure } from './measure.ts';

const TASKS = 20_000;
const RUNS = 5;
const moved: Lead = {
  ...{ kind: 'event', id: 'moved', on: true, only: null, zone: { of: 'owner' } },
  ...{ event: 're-dated', wide: false }
};

/** What a change of many tasks would do is looked at, in the thread that the built application has for it, and what others wait meanwhile. */
export async function benchPreview(): Promise<Figure[]> {
  await (ensureBuild as () => Promise<void>)();
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-preview-'));
  const container = openApart(folder, NOW, { threadFile: resolve('build', 'parts', 'thread.js') });
  try {
    container.clock.set(NOW, false);
    fillWorkspace(container, { tasks: TASKS, people: 200, projects: 40 });
    const tells = {
      ...blankDefinition(),
      leads: [moved],
      steps: [{ ...blankTell(), to: [{ who: 'owner' as const }] }]
    };
    const late = { ...tells, leads: [offsetLead('late', 1, 'workday')] };
    for (const rule of [
      written,
      { name: 'Moved', description: '', definition: tells },
      { name: 'Late', description: '', definition: late }
    ]) {
      const { result } = container.rules.add(ACTOR, rule.name, rule.definition);
      container.rules.turnOn(ACTOR, result, rule);
    }
    await container.engine.tick();
    const ids = container.stores.tasks
      .facts()
      .filter(({ due, aside, phase }) => due && !aside && phase !== 'finished' && phase !== 'closed')
      .map(({ id }) => id);
    const many = await looked(container, ids.slice(0, 10_000));
    const few = await looked(container, ids.slice(0, 100));
    return [
      {
        what: 'what moving 10,000 due dates would do, 20,000 tasks, three rules, in its thread',
        ours: `${many.ms.toFixed(0)} ms; meanwhile nobody else waits longer than ${many.longest.toFixed(0)} ms`,
        peer: `the same looked at of 100, on the spot: ${few.ms.toFixed(0)} ms`,
        ratio: `${ratio(many.ms, few.ms)} for 100 times as many`,
        note: 'bars: 2 s and 150 ms'
      }
    ];
  } finally {
    await container.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The best of some looks, ms, and how long the thread of everybody else stood still at most during that one. */
async function looked(container: Container, ids: number[]): Promise<{ ms: number; longest: number }> {
  const change = { act: 'shift' as const, n: 3, unit: 'workday' as const };
  const asked: Asked = { act: 'many tasks', input: { ids, query: '', change } };
  let best = { ms: Infinity, longest: 0 };
  for (let run = 0; run < RUNS; run++) {
    let longest = 0;
    let last = performance.now();
    const beat = setInterval(() => {
      const now = performance.now();
      longest = Math.max(longest, now - last);
      last = now;
    }, 1);
    const began = performance.now();
    await container.tryOuts.look(1, asked);
    clearInterval(beat);
    const ms = performance.now() - began;
    if (ms < best.ms) best = { ms, longest };
  }
  return best;
}
