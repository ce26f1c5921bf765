import type { Workspace } from './workspace.ts';

/**
 * Moves the clock of a demo.
 * @param to workspace clock, ms
 * @returns how many messages arrived meanwhile
 * @throws CodedError `clock-not-movable`, `clock-busy` or `clock-too-far`
 */
export async function moveClock({ engine, stores }: Workspace, to: number): Promise<number> {
  const mark = stores.since.mark();
  await engine.moveClock(to);
  return stores.since.arrived(mark);
}
