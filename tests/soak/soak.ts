import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type { ServerLife } from '../crash/server-life.ts';

/** One look at the server's process. */
export interface Sample {
  /** Since the beginning, s. */
  at: number;
  /** Resident memory, MB. */
  memory: number;
  /** Files and sockets that are open. */
  descriptors: number;
  /** The write-ahead log, MB. */
  log: number;
}

/** What came of it. */
export interface Soaked {
  samples: Sample[];
  requests: number;
  /** Answers that should not have been: a status of 500 and above, or none. */
  failed: Record<string, number>;
  /** How long answers took until they began, ms, in order. */
  tookMs: number[];
  /** How many were asked a second: fewer than wanted where too many were still waited for. */
  perSecond: number;
}

export const PER_SECOND = 20;
/** Whoever waits for so many answers asks for no more: how many files are open says then what is kept open, and not how fast the machine is. */
const MOST_UNDER_WAY = 16;
const SAMPLE_MS = 5_000;
/** The clock is moved so far, every so often, so that rules ring all the time. */
const CLOCK_EVERY_MS = 10_000;
const CLOCK_STEP_MIN = 30;
const PAGES = [
  '/',
  '/tasks',
  '/rules',
  '/people',
  '/projects',
  '/outbox',
  '/journal',
  '/escalations',
  '/digests',
  '/sweeps'
];

/**
 * Asks a server that lays the demo out twenty things a second, reading and writing, while its clock goes on.
 * @param folder of its workspace
 * @param onSample hears of each look at the process
 */
export async function soak(
  server: ServerLife,
  folder: string,
  { seconds, taskIds, from }: { seconds: number; taskIds: readonly number[]; from: number },
  onSample: (sample: Sample) => void = () => {}
): Promise<Soaked> {
  const result: Soaked = { samples: [], requests: 0, failed: {}, tookMs: [], perSecond: 0 };
  const began = performance.now();
  const isOver = () => performance.now() - began > seconds * 1_000;
  const under = new Set<Promise<void>>();
  const ask = (what: string, work: () => Promise<number | { status: number; ms: number }>) => {
    const asked = performance.now();
    const answered: Promise<void> = work().then((answer) => {
      const { status, ms } =
        typeof answer === 'number' ? { status: answer, ms: performance.now() - asked } : answer;
      under.delete(answered);
      result.requests++;
      result.tookMs.push(ms);
      if (status === 0 || status >= 500) {
        const key = `${what} ${status}`;
        result.failed[key] = (result.failed[key] ?? 0) + 1;
      }
    });
    under.add(answered);
  };
  let lastSample = -Infinity;
  let lastMove = performance.now();
  let moved = from;
  for (let i = 0; !isOver(); i++) {
    const now = performance.now();
    const taskId = taskIds[i % taskIds.length]!;
    if (now - lastMove > CLOCK_EVERY_MS) {
      lastMove = now;
      const moment = new Date((moved += CLOCK_STEP_MIN * 60_000)).toISOString();
      ask('the clock', () =>
        server.send('/clock', { to: 'moment', date: moment.slice(0, 10), time: moment.slice(11, 16) })
      );
    } else if (i % 10 === 0)
      ask('a date', () =>
        server.send(`/tasks/${taskId}/field`, { patch: { dueDate: `2026-03-${10 + (i % 20)}` } })
      );
    else if (i % 10 === 5)
      ask('a task', () =>
        server.send('/quick-add', { line: `Soaked ${i} due 2026-03-20`, answers: {}, add: true })
      );
    else if (i % 2 === 0) ask('a task’s page', () => server.readTimed(`/tasks/${taskId}`));
    else {
      const page = PAGES[i % PAGES.length]!;
      ask(page, () => server.readTimed(page));
    }
    if (now - lastSample > SAMPLE_MS) {
      lastSample = now;
      const sample = { at: Math.round((now - began) / 1_000), ...lookAt(server.pid, folder) };
      result.samples.push(sample);
      onSample(sample);
    }
    const next = began + ((i + 1) * 1_000) / PER_SECOND;
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, next - performance.now())));
    while (under.size >= MOST_UNDER_WAY) await Promise.race(under);
  }
  result.perSecond = result.requests / ((performance.now() - began) / 1_000);
  await Promise.all(under);
  result.tookMs.sort((a, b) => a - b);
  return result;
}

function lookAt(pid: number, folder: string): Omit<Sample, 'at'> {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8');
  const memory = Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1_024;
  const log = statSync(join(folder, 'early-bell.sqlite-wal'), { throwIfNoEntry: false })?.size ?? 0;
  return {
    memory: Math.round(memory),
    descriptors: readdirSync(`/proc/${pid}/fd`).length,
    log: Math.round((log / 2 ** 20) * 10) / 10
  };
}
