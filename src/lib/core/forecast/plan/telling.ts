import type { CompiledTell } from '../../rule/program.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { PersonFacts, TaskFacts } from '../facts/facts.ts';

/** Stands for the run of a ring where a recipient stands otherwise: its acts, waits and branches, on the owner's clock. */
export const THE_RUN = 0;

/** One ring of a lead for a task, as one Tell tells one recipient of it. */
export interface Telling {
  rule: RuleFacts;
  tell: CompiledTell;
  lead: CompiledLead;
  task: TaskFacts;
  recipient: PersonFacts;
  /** Which repeat; 0 is the first ring. */
  ordinal: number;
}

/** By what a notice of a rule is known within its task and round. */
export interface TellingKey {
  lead: CompiledLead;
  ordinal: number;
  anchorValue: string;
  /** Of the Tell; empty for the run. */
  stepId: string;
  recipientId: number;
}

/** By what the run of a ring is known. */
export function runKey(lead: CompiledLead, ordinal: number, anchorValue: string): TellingKey {
  return { lead, ordinal, anchorValue, stepId: '', recipientId: THE_RUN };
}
