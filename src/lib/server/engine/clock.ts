import { CodedError } from '../../core/errors.ts';

/** The machine's time. Drives leases, retry waits, sessions; a port, so that tests can hold it still. */
export interface MachineClock {
  now(): number;
  /** Ms of the machine's own time, which no setting of its clock touches. */
  steadyMs(): number;
  setTimeout(work: () => void, ms: number): unknown;
  clearTimeout(timer: unknown): void;
}

export const MACHINE_CLOCK: MachineClock = {
  now: () => Date.now(),
  steadyMs: () => performance.now(),
  setTimeout: (work, ms) => {
    const timer = setTimeout(work, ms);
    timer.unref();
    return timer;
  },
  clearTimeout: (timer) => clearTimeout(timer as NodeJS.Timeout)
};

/** Where a moved clock stands: at `workspaceMs` when the machine's was `machineMs`. */
export interface ClockState {
  workspaceMs: number;
  machineMs: number;
  /** A clock that stands still shows `workspaceMs` until it is moved. */
  running: boolean;
}

/**
 * The workspace clock: rings, ages, the journal and Date headers read it. It is the machine's, unless the workspace
 * is a demo: then it was set somewhere and runs on from there at real pace, or stands still.
 */
export class WorkspaceClock {
  readonly machine: MachineClock;
  #state: ClockState | null;

  constructor(machine: MachineClock, state: ClockState | null) {
    this.machine = machine;
    this.#state = state;
  }

  now(): number {
    const state = this.#state;
    if (!state) return this.machine.now();
    return state.running ? state.workspaceMs + (this.machine.now() - state.machineMs) : state.workspaceMs;
  }

  get movable(): boolean {
    return this.#state !== null;
  }

  get running(): boolean {
    return this.#state?.running ?? true;
  }

  /**
   * Puts the clock at a moment; it fires nothing.
   * @throws CodedError `clock-not-movable`
   */
  set(workspaceMs: number, running = this.running): void {
    if (!this.#state) throw new CodedError('clock-not-movable');
    this.#state = { workspaceMs, machineMs: this.machine.now(), running };
  }

  /** What must be kept to go on from here after a restart; null for the machine's own time. */
  state(): ClockState | null {
    return this.#state && { ...this.#state, workspaceMs: this.now(), machineMs: this.machine.now() };
  }
}
