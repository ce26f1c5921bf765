import type { CompiledLead } from '../../core/forecast/facts/compile-lead.ts';
import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import type { LiveRule } from './facts-source.ts';

/** A lead of a rule that rings for a task now. */
export interface RingNow {
  rule: LiveRule;
  lead: CompiledLead;
  task: TaskFacts;
  /** Workspace clock. */
  now: number;
}

/** How a run begins, where it is not the ring of a plan. */
export interface Started {
  actorId?: number | null;
  setOffBy?: number | null;
  parentId?: number | null;
  /** The instruction to begin with; absent: behind the leading Tells. */
  from?: number;
  /** Watch and Stop are not asked again: rung by hand on a task of one's choice. */
  regardless?: boolean;
  /** The date before the closed-day rule, of a ring that has one; absent is the owner’s today. */
  originDay?: number;
}

/** Goes on with the steps of a ring behind its leading Tells. */
export interface RunStarter {
  start(of: RingNow, ringId: number, started?: Started): void;
  /** Whoever has come to a ring since it rang is told of it, without a new run. @returns whether anybody was */
  tellOthers(of: RingNow, ringId: number): boolean;
}
