import type { BulkInput } from '../task/bulk-schema.ts';
import type { HandOverInput } from '../person/hand-over-schema.ts';
import type { ToldAct } from '../person/told-acts.ts';
import type { ProjectInput } from '../project/schema.ts';
import type { Moment } from './moment.ts';

/** An act that may touch very many tasks, as it is looked at before it is done: plain data, so that it can be looked at elsewhere. */
export type Asked =
  | { act: 'many tasks'; input: BulkInput }
  | { act: 'by hand'; ruleId: number; taskIds: number[] }
  | { act: 'sweep'; runId: number }
  | { act: 'undo'; changeId: number }
  | { act: 'project'; projectId: number; input: ProjectInput }
  | { act: 'hand over'; personId: number; input: HandOverInput }
  | { act: 'rule off'; ruleId: number }
  | { act: 'told'; told: ToldAct };

/** An act that is looked at: for whom, and as of when. */
export interface Look {
  personId: number;
  asked: Asked;
  at: Moment;
}
