import Database from 'better-sqlite3';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Confirmed, pickOf, sharesOf, underLoad, type Chance, type Shares } from './hands.ts';
import { layOut } from './harness.ts';
import { LINE_FAULTS } from './bad-line.ts';
import { ServerLife } from './server-life.ts';
import { CHANNELS, StandIns } from './stand-ins.ts';
import { wrongIn, wrongInFile } from './wrong-in.ts';

/** What the stand-ins answer: as they should, more often than not. */
const ANSWERS = ['none', 'none', 'try-later', 'drop', 'refuse'];
/** Of ten kills so many come while it starts. */
const WHILE_STARTING = 0.15;
/** Of ten rounds in so many the stand-ins are killed too. */
const STAND_INS_KILLED = 0.2;
const LONGEST_START_MS = 1_500;
const LONGEST_LIFE_MS = 4_000;

/** What came of killing the server. */
export interface ServerOutcome {
  /** What went wrong; empty when nothing did. */
  wrong: string[];
  /** What it had confirmed before it was killed, and how many messages arrived. */
  edits: number;
  files: number;
  arrived: number;
}

/**
 * Kills the web server under load and while it starts, with lines and answers that are faulty and stand-ins that are killed, again and again over
 * one workspace, and then looks at what is there.
 * @param chance numbers from 0 to 1
 * @param onKill is told after each kill how many there were
 */
export async function killServer(
  rounds: number,
  chance: Chance,
  onKill: (kills: number) => void = () => {}
): Promise<ServerOutcome> {
  const laidOut = await layOut();
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-server-'));
  cpSync(laidOut, folder, { recursive: true });
  const shares = sharesOf(everyChannel(folder));
  const standIns = await StandIns.open();
  const server = await ServerLife.over(folder, standIns.places);
  const confirmed = new Confirmed();
  const wrong: string[] = [];
  try {
    await server.start();
    await server.signIn(1);
    for (let round = 0; round < rounds; round++) {
      await oneLife(server, standIns, { shares, confirmed, chance });
      wrong.push(...wrongInFile(folder).map((one) => `after kill ${round + 1}, ${one}`));
      onKill(round + 1);
    }
    for (const channel of CHANNELS) {
      standIns.lines[channel].fault = 'good';
      await standIns.answer(channel, 'none');
    }
    await server.start();
    await settle(server, folder);
    await server.stop();
    const found = await wrongIn({ folder, laidOut }, standIns, confirmed, shares);
    return {
      wrong: [...wrong, ...found.wrong],
      edits: confirmed.edits + confirmed.added.size,
      files: [...confirmed.files.values()].filter((isThere) => isThere !== null).length,
      arrived: found.arrived
    };
  } finally {
    await server.kill();
    await standIns.close();
    for (const one of [folder, laidOut]) rmSync(one, { recursive: true, force: true });
  }
}

/** From a start to a kill. */
async function oneLife(
  server: ServerLife,
  standIns: StandIns,
  { shares, confirmed, chance }: { shares: Shares; confirmed: Confirmed; chance: Chance }
): Promise<void> {
  const wait = (longest: number) => new Promise((resolve) => setTimeout(resolve, 100 + chance() * longest));
  for (const channel of CHANNELS) {
    standIns.lines[channel].fault = chance() < 0.5 ? 'good' : pickOf(LINE_FAULTS, chance);
    await standIns.answer(channel, pickOf(ANSWERS, chance));
  }
  if (chance() < WHILE_STARTING) {
    server.begin();
    await wait(LONGEST_START_MS);
    await server.kill();
    return;
  }
  await server.start();
  const load = underLoad(server, shares, confirmed, chance);
  await wait(LONGEST_LIFE_MS);
  const areKilled = chance() < STAND_INS_KILLED;
  if (areKilled) {
    await standIns.kill();
    await wait(LONGEST_LIFE_MS / 4);
  }
  await server.kill();
  if (areKilled) await standIns.start();
  await load;
}

/** The demo's people get every channel. @returns the ids of the tasks */
function everyChannel(folder: string): number[] {
  const db = new Database(join(folder, 'early-bell.sqlite'));
  const channels = JSON.stringify(
    Object.fromEntries(
      ['due today', 'reminder', 'overdue'].map((kind) => [kind, ['mail', 'text', 'chat', 'in-app']])
    )
  );
  db.prepare(`UPDATE person SET channels = ?, phone = '+351 265 555 0' || id, chat = lower(name)`).run(
    channels
  );
  const ids = db.prepare<[], number>('SELECT id FROM task ORDER BY id').pluck().all();
  db.close();
  return ids;
}

/** Waits until nothing is under way any more; what waits for its next try is tried at once. */
async function settle(server: ServerLife, folder: string): Promise<void> {
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  try {
    for (let i = 0; i < 300; i++) {
      await server.submit('/post-room?/fault', { channel: 'mail', fault: 'none' });
      await new Promise((resolve) => setTimeout(resolve, 100));
      const left = db
        .prepare<[], number>(
          `SELECT (SELECT count(*) FROM delivery WHERE state IN ('queued', 'leased')) + (SELECT count(*) FROM replan)
             + (SELECT count(*) FROM owed_event)`
        )
        .pluck()
        .get();
      if (left === 0) return;
    }
  } finally {
    db.close();
  }
}
