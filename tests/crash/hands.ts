import { START } from './points.ts';
import type { ServerLife } from './server-life.ts';

/** Requests under way at once, besides those of the hand that does much at once. */
const HANDS = 3;
const STEP_MINUTES = 45;
const PRIORITIES = ['low', 'ordinary', 'high'] as const;
/** Rows of a file: so many that they are written in a thread. */
export const FILE_ROWS = 220;
export type Chance = () => number;

/** What the server has confirmed, which no kill may lose; null of what is under way, of which nothing is known. */
export class Confirmed {
  readonly dueDates = new Map<number, string | null>();
  /** The priority of each task that was changed with many others. */
  readonly priorities = new Map<number, string | null>();
  readonly added = new Set<string>();
  /** Files by their name: whether their tasks are there. */
  readonly files = new Map<string, boolean | null>();
  edits = 0;
}

/** Who has which tasks, so that what one was told does not hang on what another did. */
export interface Shares {
  /** Nobody touches these: what rings for them is what was foretold. */
  untouched: readonly number[];
  /** These are changed all at once. */
  many: readonly number[];
  hands: readonly (readonly number[])[];
}

export function sharesOf(taskIds: readonly number[]): Shares {
  const untouched = taskIds.slice(0, 6);
  const many = taskIds.slice(6, 12);
  const rest = taskIds.slice(12);
  const hands = Array.from({ length: HANDS }, (_, which) => rest.filter((_, i) => i % HANDS === which));
  return { untouched, many, hands };
}

/** The clock goes on, tasks are added and get other dates, many are changed at once and taken back, files are imported, pages are read, until the server is gone. */
export async function underLoad(
  server: ServerLife,
  shares: Shares,
  confirmed: Confirmed,
  chance: Chance
): Promise<void> {
  let gone = false;
  const clock = async () => {
    while (!gone) gone = (await server.post('/clock', nextMoment())) === null;
  };
  const hand = async (own: readonly number[], which: number) => {
    while (!gone) {
      const taskId = pickOf(own, chance);
      const date = `2026-03-${String(6 + Math.floor(chance() * 20)).padStart(2, '0')}`;
      confirmed.dueDates.set(taskId, null);
      if (await server.post(`/tasks/${taskId}/field`, { patch: { dueDate: date } })) {
        confirmed.dueDates.set(taskId, date);
        confirmed.edits++;
      } else gone = true;
      const name = `Added ${which} ${Math.floor(chance() * 1e9)}`;
      const line = { line: `${name} due 2026-03-20`, answers: {}, add: true };
      if (!gone && (await server.post('/quick-add', line))) confirmed.added.add(name);
      if (!gone && (await server.read('/tasks')) !== 200) gone = true;
    }
  };
  const much = async () => {
    while (!gone) {
      const ends =
        chance() < 0.6
          ? await changeMany(server, shares.many, confirmed, chance)
          : await importFile(server, confirmed, chance);
      if (!ends) gone = true;
    }
  };
  await Promise.all([clock(), much(), ...shares.hands.map(hand)]);
}

let moved = 0;
function nextMoment() {
  const moment = new Date(START + (moved += STEP_MINUTES) * 60_000).toISOString();
  return { to: 'moment', date: moment.slice(0, 10), time: moment.slice(11, 16) };
}

/** Changes tasks all at once, and takes it back now and then. @returns false once the server is gone */
async function changeMany(
  server: ServerLife,
  ids: readonly number[],
  { priorities }: Confirmed,
  chance: Chance
): Promise<boolean> {
  const before = new Map(priorities);
  const set = (value: (id: number) => string | null) => {
    for (const id of ids) priorities.set(id, value(id));
  };
  const priority = pickOf(PRIORITIES, chance);
  set(() => null);
  const answer = await server.post('/tasks/bulk', { ids, query: '', change: { act: 'priority', priority } });
  if (!answer) return false;
  set(() => priority);
  if (chance() < 0.5 || answer.changeId === undefined) return true;
  set(() => null);
  if (!(await server.post('/undo', { changeId: answer.changeId }))) return false;
  set((id) => before.get(id) ?? null);
  return true;
}

/** Imports a file of its own, and takes it back now and then. @returns false once the server is gone */
async function importFile(server: ServerLife, { files }: Confirmed, chance: Chance): Promise<boolean> {
  const name = `File ${Math.floor(chance() * 1e9)}`;
  const rows = Array.from({ length: FILE_ROWS }, (_, i) => `${name} row ${i},2026-03-${10 + (i % 20)}`);
  const token = await server.upload(`Task,Due\n${rows.join('\n')}\n`);
  if (token === null) return false;
  files.set(name, null);
  const done = await server.act(`/tasks/import/${token}?/import`);
  if (done === null) return false;
  files.set(name, true);
  if (chance() < 0.6) return true;
  files.set(name, null);
  if (!(await server.post('/undo', { changeId: done }))) return false;
  files.set(name, false);
  return true;
}

export function pickOf<T>(all: readonly T[], chance: Chance): T {
  return all[Math.floor(chance() * all.length)]!;
}
