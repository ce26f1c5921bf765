import {
  PHASES,
  PRIORITIES,
  watchedPhases,
  watchedUnseen,
  type Phase,
  type Priority,
  type RuleDefinition,
  type Unseen
} from './model.ts';
import { compileCondition, folded, type CompiledCondition, type OwnKinds } from './compile-condition.ts';
import { testsOf } from './condition.ts';

/** A Watch compiled to bit masks and a set, so that testing a task costs a few integer operations; its condition is asked of what is left. */
export interface CompiledWatch {
  projects: ReadonlySet<number> | null;
  phaseMask: number;
  priorityMask: number;
  /** Where a task may stand apart and is seen all the same. */
  seen: ReadonlySet<Unseen>;
  /** Whose private tasks are seen. */
  keeperId: number | null;
  /** Rings what people set on a task itself, so private ones too. */
  ofTask: boolean;
  /** At least one of these, folded; null asks for none. */
  tags: ReadonlySet<string> | null;
  condition: CompiledCondition | null;
  /** Whether anything is asked that only the task's details tell. */
  asks: boolean;
  /** Whether the answer changes with what this rule has sent. */
  countsRings: boolean;
}

export function compileWatch(
  definition: Pick<RuleDefinition, 'watch' | 'leads'>,
  keeperId: number | null,
  own: OwnKinds,
  ofTask = false
): CompiledWatch {
  const { watch } = definition;
  const condition = compileCondition(watch.condition, own);
  return {
    projects: watch.projects === null ? null : new Set(watch.projects),
    phaseMask: mask(PHASES, watchedPhases(definition)),
    priorityMask: mask(PRIORITIES, watch.priorities),
    seen: new Set(watchedUnseen(definition)),
    keeperId,
    ofTask,
    tags: watch.tags.length === 0 ? null : new Set(watch.tags.map(folded)),
    condition,
    asks: condition !== null || watch.tags.length > 0,
    countsRings: testsOf(watch.condition).some(({ field }) => field === 'rings so far')
  };
}

/** What the part of a Watch that needs no details is asked of. */
export interface Watched {
  projectId: number | null;
  ownerId: number | null;
  phase: Phase;
  priority: Priority;
  private: boolean;
  /** Where it stands apart from the list; null in the list. */
  aside: Unseen | null;
}

/** Whether a rule looks at a task, as far as its facts alone tell: project, phase, priority, where it stands, whose it is. */
export function inScope(watch: CompiledWatch, task: Watched): boolean {
  return (
    (task.aside === null || watch.seen.has(task.aside)) &&
    (watch.phaseMask & (1 << PHASES.indexOf(task.phase))) !== 0 &&
    (watch.priorityMask & (1 << PRIORITIES.indexOf(task.priority))) !== 0 &&
    (watch.projects === null || (task.projectId !== null && watch.projects.has(task.projectId))) &&
    (!task.private || watch.ofTask || (task.ownerId !== null && task.ownerId === watch.keeperId))
  );
}

function mask<T>(all: readonly T[], chosen: readonly T[]): number {
  return chosen.reduce((bits, value) => bits | (1 << all.indexOf(value)), 0);
}
