/** How the application begins and ends, and what it says of itself. */

import { dirname } from 'node:path';
import pino from 'pino';
import { ReturnedMail } from '../channel/returned-mail.ts';
import { type ClockState, type MachineClock } from '../engine/clock.ts';
import type { ChannelHealth } from '../outbox/health.ts';
import { Outbox } from '../outbox/outbox.ts';
import { LaterViews } from '../threads/later-views.ts';
import { Threads } from '../threads/threads.ts';
import { dropLeftCopies } from '../in-out/import-aside.ts';
import { Sweeper } from '../sweep/sweeper.ts';
import type { Db } from '../db/open.ts';
import { UnitOfWork } from '../db/unit-of-work.ts';
import { type Stores } from '../store/all.ts';
import type { ContainerOptions } from '../options.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** Words of errors are logged, and what they say of themselves; nothing by which somebody could come in or send. */
const NEVER_LOGGED = ['password', 'pass', 'token', 'secret', 'authorization', 'auth', 'cookie', 'url', 'raw'];

export function openLog({ logLevel, logTo }: ContainerOptions): pino.Logger {
  const paths = NEVER_LOGGED.flatMap((name) => [name, `*.${name}`, `*.*.${name}`]);
  const options = { level: logLevel ?? 'info', base: null, redact: { paths, remove: true } };
  return logTo ? pino(options, logTo) : pino(options);
}

/** A demo goes on where its clock was left; a new one starts where it is told. While it was shut its clock stood still. */
export function startOfDemoClock(
  stores: Stores,
  machine: MachineClock,
  startAtMs: number | undefined
): ClockState {
  const kept = stores.engineState.read<ClockState>('clock');
  if (kept) return { ...kept, machineMs: machine.now() };
  return { workspaceMs: startAtMs ?? machine.now(), machineMs: machine.now(), running: true };
}

/** How it begins and ends. */
export function lifeOf({
  db,
  work,
  stores,
  clock,
  engine,
  outbox,
  health,
  sweeper,
  threads,
  readers,
  writers,
  later,
  returns,
  options,
  log
}: Workspace & {
  db: Db;
  outbox: Outbox;
  health: ChannelHealth;
  sweeper: Sweeper;
  threads: Threads;
  readers: Threads;
  writers: Threads;
  later: LaterViews;
  options: ContainerOptions;
  log: pino.Logger;
  returns: ReturnedMail;
}) {
  return {
    /** @returns the port on which reports about mail that came back are taken; null where none are */
    async start(): Promise<number | null> {
      const closed = sealSecrets(db, work, stores);
      if (closed.length > 0) log.warn({ closed }, 'secrets cannot be opened with the key that is here');
      if (!db.memory) dropLeftCopies(dirname(db.name));
      later.ready();
      sweeper.recover();
      engine.start();
      // What a backup had still to deliver may have left: nothing goes before somebody has answered.
      if (engine.started) outbox.start();
      health.start();
      return options.returnPort === undefined ? null : returns.listen(options.returnPort);
    },
    async stop(): Promise<void> {
      health.stop();
      // Side by side: a move of the clock waits for the outbox, which waits for the other side.
      await Promise.all([
        engine.stop(),
        outbox.stop(),
        returns.close(),
        threads.close(),
        readers.close(),
        writers.close()
      ]);
      if (clock.movable) work.run(() => stores.engineState.write('clock', clock.state()));
      db.close();
    }
  };
}

/** Seals what is not yet; what stood open is overwritten in the file. @returns what no key here opens: it has to be given again */
function sealSecrets(db: Db, work: UnitOfWork, stores: Stores): string[] {
  db.pragma('secure_delete = ON');
  const closed = work.run(() => stores.secrets.sealAll());
  db.pragma('secure_delete = OFF');
  return closed;
}
