import type { InstantMs } from '../time/zone.ts';
import type { CompiledCondition } from './compile-condition.ts';
import type { Branch, Do, Wait } from './step-model.ts';
import type { CompiledTell, Program } from './program.ts';

/** What a run does as it goes through the steps: the engine writes it down, a forecast imagines it. */
export interface RunEnvironment {
  /** The lead that rang. */
  leadId: string;
  tell(tell: CompiledTell): void;
  /** @returns until when an answer is waited for, or null when it is done */
  act(step: Do): InstantMs | null;
  /** @returns the instant at which the run goes on */
  wait(step: Wait): InstantMs;
  holds(condition: CompiledCondition | null): boolean;
  /** The path by name: which side of a branch was taken; null is the otherwise. */
  took(step: Branch, side: string | null): void;
}

/** Where a run stands: it goes on there at an instant, or has ended. */
export interface Standing {
  at: number;
  /** Null: it has ended. */
  until: InstantMs | null;
}

/**
 * Goes through the steps of a run from one place on, until one of them waits or the last is done.
 * @param from the instruction to go on with
 */
export function advance({ instructions }: Program, from: number, environment: RunEnvironment): Standing {
  const answersLead = (leads: ReadonlySet<string> | null) => leads === null || leads.has(environment.leadId);
  for (let at = from; at < instructions.length;) {
    const instruction = instructions[at]!;
    switch (instruction.do) {
      case 'tell':
        if (answersLead(instruction.tell.leads)) environment.tell(instruction.tell);
        at++;
        break;
      case 'act': {
        const until = answersLead(instruction.leads) ? environment.act(instruction.step) : null;
        // An answer, or its absence, is taken up at the same step.
        if (until !== null) return { at, until };
        at++;
        break;
      }
      case 'wait':
        at++;
        if (answersLead(instruction.leads)) return { at, until: environment.wait(instruction.step) };
        break;
      case 'test': {
        const holds = environment.holds(instruction.condition);
        if (holds) environment.took(instruction.step, instruction.side);
        else if (isLastSide(instruction.step, instruction.side)) environment.took(instruction.step, null);
        at = holds ? at + 1 : instruction.otherwise;
        break;
      }
      case 'go':
        at = instruction.to;
        break;
    }
  }
  return { at: instructions.length, until: null };
}

function isLastSide({ sides }: Branch, name: string): boolean {
  return sides[sides.length - 1]?.name === name;
}
