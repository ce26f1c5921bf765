import type { DigestSchedule } from '../digest/model.ts';
import { openWatch, type Watch } from '../rule/model.ts';
import { type Unseen, OPEN_PHASES, PHASES, type Phase } from '../task/model.ts';

/** What a sweep does with what it takes. */
export const SWEEP_ACTS = [
  'close',
  'archive',
  'purge',
  'still needed',
  'ask a date',
  're-date',
  'report slips',
  'bring back'
] as const;
export type SweepActName = (typeof SWEEP_ACTS)[number];

/** What becomes of a stale task of which its owner has said nothing. */
export const UNANSWERED = ['park', 'close', 'keep'] as const;
export type Unanswered = (typeof UNANSWERED)[number];

/** An act with what it asks besides. */
export type SweepAct =
  | { act: 'close' }
  /** Its wait counts from when the task was closed, or from when it was finished: then finished ones are taken too. */
  | { act: 'archive'; after: 'closed' | 'finished' }
  /** What was archived goes into the bin, and leaves that after its own days. */
  | { act: 'purge' }
  /** The owner is asked; after so many of their working days without an answer the rest is done. */
  | { act: 'still needed'; answerDays: number; otherwise: Unanswered }
  | { act: 'ask a date' }
  | { act: 're-date'; to: 'today' | 'next working day' }
  /** Moved later at least so often in this round. */
  | { act: 'report slips'; atLeast: number }
  | { act: 'bring back' };

/** How long something must have been so before a sweep takes it; working days are those of the owner. */
export interface SweepWait {
  n: number;
  unit: 'hour' | 'day' | 'workday';
}

/** By hand alone, or by a recurrence rule over local time. */
export type SweepWhen = { by: 'hand' } | DigestSchedule;

/** What a sweep says. */
export interface SweepDefinition {
  /** Which tasks it looks at; phases and where they stand go by the act. */
  watch: Watch;
  act: SweepAct;
  wait: SweepWait;
  when: SweepWhen;
  /** Whether a planned one runs once its list was sent and nobody stopped it, or waits for a yes; purging always waits. */
  goes: 'unless stopped' | 'after a yes';
  /** What becomes of a run that was cut off: it goes on at the next start, or is taken back. */
  cutOff: 'go on' | 'undo';
}

/**
 * looking → ready → running → done → undoing → undone; from ready also stopped (somebody stopped it, or changed the sweep) and passed
 * (nobody said yes before the next one); from running halted, which goes on or is undone.
 */
export type SweepRunState =
  'looking' | 'ready' | 'running' | 'halted' | 'done' | 'stopped' | 'passed' | 'undoing' | 'undone';

/** How long what a sweep did can be taken back, in days of the workspace clock. */
export const UNDO_DAYS = 30;
/** A sweep that would take such a share of all that stands where it looks asks twice. */
export const LARGE_SHARE = 0.5;
/** Below so many tasks a share says nothing. */
export const LARGE_FROM = 20;

/** The phases that an act looks at. */
export function phasesOf(act: SweepAct): readonly Phase[] {
  switch (act.act) {
    case 'close':
      return ['finished'];
    case 'archive':
      return act.after === 'closed' ? ['closed'] : ['finished', 'closed'];
    case 'purge':
    case 'bring back':
      return PHASES;
    default:
      return OPEN_PHASES;
  }
}

/** Where tasks stand that an act looks at; null is the list. */
export function standingsOf({ act }: SweepAct): readonly (Unseen | null)[] {
  switch (act) {
    case 'close':
    case 'archive':
      // Finished work of a project that is over is swept like any other.
      return [null, 'called off'];
    case 'purge':
      return ['archived'];
    case 'bring back':
      return ['parked'];
    default:
      return [null];
  }
}

/** Whether an act takes a task away from the lists: then nothing goes that is not done with. */
export function takesAway({ act }: SweepAct): boolean {
  return act === 'close' || act === 'archive' || act === 'purge';
}

/** What each act waits for when nothing else is said. */
const WAITS: Readonly<Record<SweepActName, SweepWait>> = {
  close: { n: 1, unit: 'day' },
  archive: { n: 7, unit: 'day' },
  purge: { n: 365, unit: 'day' },
  'still needed': { n: 20, unit: 'workday' },
  'ask a date': { n: 2, unit: 'workday' },
  're-date': { n: 0, unit: 'workday' },
  'report slips': { n: 0, unit: 'day' },
  'bring back': { n: 0, unit: 'day' }
};

/** An act with what goes by default. */
export function blankAct(act: SweepActName): SweepAct {
  switch (act) {
    case 'archive':
      return { act, after: 'closed' };
    case 'still needed':
      return { act, answerDays: 5, otherwise: 'park' };
    case 're-date':
      return { act, to: 'next working day' };
    case 'report slips':
      return { act, atLeast: 3 };
    default:
      return { act };
  }
}

/** A sweep as it starts: by hand, over everything, with the wait that is usual for its act. */
export function blankSweep(act: SweepActName): SweepDefinition {
  return {
    watch: openWatch(),
    act: blankAct(act),
    wait: { ...WAITS[act] },
    when: { by: 'hand' },
    goes: act === 'purge' ? 'after a yes' : 'unless stopped',
    cutOff: 'go on'
  };
}
