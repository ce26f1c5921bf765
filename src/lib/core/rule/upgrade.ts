import { DEFAULT_PAST, NO_STOP, openWatch, type RuleDefinition, type Stop, type Watch } from './model.ts';
import { blankTell, type Recipient, type Step, type Tell } from './step-model.ts';
import type { OffsetLead } from './lead-model.ts';

/** A rule as the first versions of the product wrote it down: one kind of ring, one Tell. */
interface FirstShape {
  watch: Pick<Watch, 'projects' | 'phases' | 'priorities'>;
  leads: Omit<OffsetLead, 'kind' | 'repeat' | 'only'>[];
  tell: Pick<Tell, 'reach' | 'subject' | 'body'> &
    Partial<Pick<Tell, 'away'>> & { channel: 'mail'; to: 'owner' | 'manager' | null };
}

/** Rules of before rang whatever was said of a task. */
const NEVER_QUIET: Stop['quiet'] = { acknowledged: 'nothing', stuck: 'nothing' };

/**
 * A definition as it is stored, in the shape that the rest of the product knows. Versions are never rewritten, so those of an older shape
 * are read for good; what they did not say is what they did: one message for each task.
 */
export function readDefinition(stored: unknown): RuleDefinition {
  const definition = stored as Partial<RuleDefinition> & Partial<FirstShape>;
  const steps: Step[] = definition.steps?.map(readStep) ?? [firstTell(definition.tell!)];
  return {
    watch: { ...openWatch(), ...definition.watch },
    leads: (definition.leads ?? []).map((lead) => ({
      ...{ kind: 'offset', repeat: null, only: null },
      ...lead
    })),
    steps,
    stop: { ...NO_STOP, quiet: NEVER_QUIET, ...definition.stop },
    past: { ...DEFAULT_PAST, ...definition.past },
    ifLate: definition.ifLate ?? 'keep',
    firstRun: definition.firstRun ?? null,
    inOrder: definition.inOrder ?? true,
    awayStops: definition.awayStops ?? false
  };
}

/** A step with what its kind has learned since it was written down. */
function readStep(step: Step): Step {
  if (step.kind === 'tell') {
    // There was one channel before there were several, and nobody had chosen it.
    const { channel: _, ...said } = step as Tell & { channel?: 'mail' };
    return { ...{ importance: 'ordinary', attach: [], channels: null }, ...said };
  }
  if (step.kind !== 'branch') return step;
  const sides = step.sides.map((side) => ({ ...side, steps: side.steps.map(readStep) }));
  return { ...step, sides, otherwise: step.otherwise.map(readStep) };
}

function firstTell({ to, channel: _, ...said }: FirstShape['tell']): Tell {
  const recipients: Recipient[] =
    to === null ? [] : to === 'owner' ? [{ who: 'owner' }] : [{ who: 'manager', up: 1 }];
  return { ...blankTell(), gather: 'per task', ...said, to: recipients };
}
