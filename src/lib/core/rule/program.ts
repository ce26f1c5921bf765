import { compileCondition, type CompiledCondition, type OwnKinds } from './compile-condition.ts';
import {
  allSteps,
  blankTell,
  type Branch,
  type Do,
  type Recipient,
  type Step,
  type Tell,
  type Wait
} from './step-model.ts';

/** A Tell made ready. */
export interface CompiledTell {
  step: Tell;
  /** Ids of the leads that it answers; null for all. */
  leads: ReadonlySet<string> | null;
  /** Whether some of its recipients answer some leads only. */
  filtered: boolean;
  /** The only recipient, where there is one that is looked up without a list. */
  single: 'owner' | 'manager' | null;
  /** Whether whom it tells hangs on a task's owner and project alone. */
  byOwner: boolean;
}

/** Recipients that are found by a task's owner and project, by nothing of the task alone. */
const BY_OWNER_OR_PROJECT: ReadonlySet<string> = new Set([
  'owner',
  'manager',
  'above',
  'keeper',
  'coordinator',
  'members',
  'person',
  'group',
  'address'
]);
/** One thing that a run does; sides of a branch are told apart by where they go on. */
export type Instruction =
  | { do: 'tell'; tell: CompiledTell }
  | { do: 'act'; step: Do; leads: ReadonlySet<string> | null }
  | { do: 'wait'; step: Wait; leads: ReadonlySet<string> | null }
  /** Goes on with the next when the condition holds, else at `otherwise`. */
  | { do: 'test'; step: Branch; side: string; condition: CompiledCondition | null; otherwise: number }
  | { do: 'go'; to: number };

/** The steps of a rule, as a run goes through them. */
export interface Program {
  instructions: readonly Instruction[];
  /** The Tells before the first other step: timed for each recipient. The run itself starts behind them. */
  leading: readonly CompiledTell[];
  start: number;
  /** The Tells that every ring comes to at once: those before the first wait, branch or question. */
  atOnce: readonly CompiledTell[];
  /** Every Tell, by the id of its step. */
  tells: ReadonlyMap<string, CompiledTell>;
  /** Whether anything is changed. */
  acts: boolean;
  /** Whether there is nothing but Tells from the start. */
  tellsOnly: boolean;
}

/**
 * Lays the steps out one after the other, so that where a run stands is one number.
 * @throws CodedError for a date in a condition that does not exist
 */
export function compileProgram(steps: readonly Step[], own: OwnKinds): Program {
  const instructions: Instruction[] = [];
  const tells = new Map<string, CompiledTell>();
  for (const step of steps) lay(step, instructions, tells, own);
  const first = instructions.findIndex((one) => one.do !== 'tell');
  const start = first < 0 ? instructions.length : first;
  return {
    instructions,
    leading: instructions.slice(0, start).map((one) => (one as { tell: CompiledTell }).tell),
    start,
    atOnce: atOnce(instructions),
    tells,
    acts: allSteps(steps).some(({ kind }) => kind === 'do'),
    tellsOnly: start === instructions.length
  };
}

function atOnce(instructions: readonly Instruction[]): CompiledTell[] {
  const isStop = (one: Instruction) => one.do !== 'tell' && (one.do !== 'act' || one.step.ask !== null);
  const stop = instructions.findIndex(isStop);
  return instructions
    .slice(0, stop < 0 ? undefined : stop)
    .flatMap((one) => (one.do === 'tell' ? one.tell : []));
}

function lay(step: Step, out: Instruction[], tells: Map<string, CompiledTell>, own: OwnKinds): void {
  const leads = step.leads && new Set(step.leads);
  switch (step.kind) {
    case 'tell': {
      const tell = compileTell(step);
      tells.set(step.id, tell);
      out.push({ do: 'tell', tell });
      return;
    }
    case 'do':
      if (step.ask) tells.set(step.id, compileTell(questionTell(step, step.ask.question)));
      out.push({ do: 'act', step, leads });
      return;
    case 'wait':
      out.push({ do: 'wait', step, leads });
      return;
    case 'branch':
      layBranch(step, out, tells, own);
  }
}

/** Sides are tested in their order; the first that holds is gone through, else the otherwise; then they meet. */
function layBranch(step: Branch, out: Instruction[], tells: Map<string, CompiledTell>, own: OwnKinds): void {
  const ends: { do: 'go'; to: number }[] = [];
  for (const side of step.sides) {
    const test = {
      do: 'test' as const,
      step,
      side: side.name,
      condition: compileCondition(side.condition, own),
      otherwise: 0
    };
    out.push(test);
    for (const inner of side.steps) lay(inner, out, tells, own);
    const end = { do: 'go' as const, to: 0 };
    out.push(end);
    ends.push(end);
    test.otherwise = out.length;
  }
  for (const inner of step.otherwise) lay(inner, out, tells, own);
  for (const end of ends) end.to = out.length;
}

/** What is asked before a step acts, as whoever is asked gets it. */
function questionTell({ id, name, description, leads }: Do, question: string): Tell {
  return {
    ...blankTell(id),
    ...{ name, description, leads },
    to: [],
    gather: 'per task',
    subject: `${question} (‹task›)`,
    body: `Hello ‹first name›,\n\n${question}\n\n‹task›‹in project› is ‹days left›. Answer here:\n\n‹link›`,
    noticeKind: 'question'
  };
}

export function compileTell(step: Tell): CompiledTell {
  return {
    step,
    leads: step.leads && new Set(step.leads),
    filtered: step.to.some(({ leads }) => leads !== undefined),
    single: singleOf(step.to),
    byOwner: step.to.every(({ who }) => BY_OWNER_OR_PROJECT.has(who))
  };
}

function singleOf(to: readonly Recipient[]): 'owner' | 'manager' | null {
  const [only, ...others] = to;
  if (!only || others.length > 0 || only.leads) return null;
  if (only.who === 'owner') return 'owner';
  return only.who === 'manager' && only.up === 1 ? 'manager' : null;
}
