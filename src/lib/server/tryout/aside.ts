import { CHANNELS } from '../../core/channel/channels.ts';
import { createContainer, type Container } from '../container.ts';
import type { Db } from '../db/open.ts';
import { MACHINE_CLOCK } from '../engine/clock.ts';
import type { PlainOptions } from '../threads/talk.ts';
import type { Moment } from './moment.ts';

/** The application over the workspace itself, by a connection that reads alone: it rings nothing and sends nothing. @param machine the time of the machine, as it is told */
export function openReading(db: Db, options: PlainOptions, machine: { now: number }): Container {
  return createContainer({
    ...options,
    db,
    machine: { ...MACHINE_CLOCK, now: () => machine.now },
    channels: NOWHERE,
    logLevel: 'silent'
  });
}

/** The application over the workspace itself, by a connection that may write, as of one moment: it rings nothing by itself and sends nothing. */
export function openWriting(db: Db, options: PlainOptions, at: Moment): Container {
  const writing = createContainer({
    ...options,
    db,
    machine: { ...MACHINE_CLOCK, now: () => at.machineMs },
    channels: NOWHERE,
    logLevel: 'silent'
  });
  if (writing.clock.movable) writing.clock.set(at.workspaceMs, false);
  return writing;
}

const NOWHERE = CHANNELS.map((name) => ({ name, send: () => Promise.resolve(), close: () => {} }));

/**
 * The application over a copy of its workspace, as of one moment, to try something on: it rings nothing by itself and sends nothing. Other than a
 * copy that is put back to what it was, it holds its rows together as the workspace does.
 */
export function openAside(copy: Db, options: PlainOptions, at: Moment): Container {
  copy.pragma('foreign_keys = ON');
  return openWriting(copy, options, at);
}
