/** Errors of the database that say something of the machine, not of what was asked: a full disk, a file that somebody else holds, a disk that fails. */
const OF_THE_MACHINE = /^SQLITE_(FULL|BUSY|LOCKED|IOERR|NOMEM|READONLY|CANTOPEN|CORRUPT|NOTADB)/;

/**
 * Whether nothing can be read or written just now. It is no fault of a row: what was under way was taken back whole, and is done again when the
 * machine can.
 */
export function isMachineFault(error: unknown): boolean {
  const { code } = (error ?? {}) as { code?: unknown };
  return typeof code === 'string' && OF_THE_MACHINE.test(code);
}

/** How long to wait before the next try, after so many that failed: a second, then twice as long each time, half a minute at most. */
export function machineFaultWaitMs(failures: number): number {
  return Math.min(1_000 * 2 ** (failures - 1), 30_000);
}
