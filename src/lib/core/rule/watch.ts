import { watchedPhases, watchedUnseen, type RuleDefinition } from './model.ts';
import { type Unseen, PHASES, PRIORITIES, type Phase, type Priority } from '../task/model.ts';
import { makesTasks, type Step } from './step-model.ts';
import { compileCondition, folded, type CompiledCondition, type OwnKinds } from './compile-condition.ts';
import { testsOf } from './condition.ts';
import { withList, type ListScopes } from './list-scope.ts';

/** A Watch compiled to bit masks and a set, so that testing a task costs a few integer operations; its condition is asked of what is left. */
export interface CompiledWatch {
  projects: ReadonlySet<number> | null;
  phaseMask: number;
  priorityMask: number;
  /** Where a task may stand apart and is seen all the same. */
  seen: ReadonlySet<Unseen>;
  /** Only what stands apart there; null for what is in the list as well. */
  standing: Unseen | null;
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
  /** What this rule made itself is never seen. */
  ruleId: number;
  /** How many rules may have made a task one after another for it to be seen. */
  madeDepth: number;
}

/** How deep tasks that rules made stand behind the one that people made, at most. */
export const DEEPEST_MADE = 3;

/** @param world of which kind own fields are, and what saved lists hold */
export function compileWatch(
  {
    watch: written,
    leads,
    steps = []
  }: Pick<RuleDefinition, 'watch' | 'leads'> & { steps?: readonly Step[] },
  keeperId: number | null,
  { ownKinds, lists }: { ownKinds: OwnKinds; lists: ListScopes },
  ofTask = false,
  ruleId = 0
): CompiledWatch {
  const { standing, ...watch } = withList(written, lists);
  const definition = { watch, leads };
  const condition = compileCondition(watch.condition, ownKinds);
  return {
    projects: watch.projects === null ? null : new Set(watch.projects),
    phaseMask: mask(PHASES, watchedPhases(definition)),
    priorityMask: mask(PRIORITIES, watch.priorities),
    seen: new Set(watchedUnseen(definition)),
    standing,
    keeperId,
    ofTask,
    tags: watch.tags.length === 0 ? null : new Set(watch.tags.map(folded)),
    condition,
    asks: condition !== null || watch.tags.length > 0,
    countsRings: testsOf(watch.condition).some(({ field }) => field === 'rings so far'),
    ruleId,
    madeDepth: !makesTasks(steps) ? Infinity : watch.made ? DEEPEST_MADE - 1 : 0
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
  made: { readonly ruleIds: readonly number[] } | null;
}

/** Whether a rule looks at a task, as far as its facts alone tell: project, phase, priority, where it stands, whose it is. */
export function inScope(watch: CompiledWatch, task: Watched): boolean {
  return (
    (task.aside === null || watch.seen.has(task.aside)) &&
    (watch.standing === null || task.aside === watch.standing) &&
    (watch.phaseMask & (1 << PHASES.indexOf(task.phase))) !== 0 &&
    (watch.priorityMask & (1 << PRIORITIES.indexOf(task.priority))) !== 0 &&
    (task.made === null || isMadeSeen(watch, task.made.ruleIds)) &&
    (watch.projects === null || (task.projectId !== null && watch.projects.has(task.projectId))) &&
    (!task.private || watch.ofTask || (task.ownerId !== null && task.ownerId === watch.keeperId))
  );
}

/** What a rule has made it never looks at; and one that makes tasks looks at made ones where it says so, and not for ever. */
function isMadeSeen({ ruleId, madeDepth }: CompiledWatch, ruleIds: readonly number[]): boolean {
  return ruleIds[0] !== ruleId && ruleIds.length <= madeDepth;
}

function mask<T>(all: readonly T[], chosen: readonly T[]): number {
  return chosen.reduce((bits, value) => bits | (1 << all.indexOf(value)), 0);
}
