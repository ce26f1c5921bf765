import { PHASES, PRIORITIES, type Phase, type Priority, type Watch } from './model.ts';

/** A Watch compiled to bit masks and a set, so that testing a task costs a few integer operations. */
export interface CompiledWatch {
  projects: ReadonlySet<number> | null;
  phaseMask: number;
  priorityMask: number;
  /** Whose private tasks are seen. */
  keeperId: number | null;
  /** Rings what people set on a task itself, so private ones too. */
  ofTask: boolean;
}

export function compileWatch(watch: Watch, keeperId: number | null, ofTask = false): CompiledWatch {
  return {
    projects: watch.projects === null ? null : new Set(watch.projects),
    phaseMask: mask(PHASES, watch.phases),
    priorityMask: mask(PRIORITIES, watch.priorities),
    keeperId,
    ofTask
  };
}

/** Whether a rule looks at a task, as its facts stand. */
export function watches(
  watch: CompiledWatch,
  task: {
    projectId: number | null;
    ownerId: number | null;
    phase: Phase;
    priority: Priority;
    private: boolean;
    aside: boolean;
  }
): boolean {
  return (
    !task.aside &&
    (watch.phaseMask & (1 << PHASES.indexOf(task.phase))) !== 0 &&
    (watch.priorityMask & (1 << PRIORITIES.indexOf(task.priority))) !== 0 &&
    (watch.projects === null || (task.projectId !== null && watch.projects.has(task.projectId))) &&
    (!task.private || watch.ofTask || (task.ownerId !== null && task.ownerId === watch.keeperId))
  );
}

function mask<T>(all: readonly T[], chosen: readonly T[]): number {
  return chosen.reduce((bits, value) => bits | (1 << all.indexOf(value)), 0);
}
