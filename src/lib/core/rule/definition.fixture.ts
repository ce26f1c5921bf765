import { blankDefinition, type RuleDefinition } from './model.ts';
import { offsetLead, type OffsetLead } from './lead-model.ts';
import { blankTell, type Tell } from './step-model.ts';

/** Two working days before the due date. */
export const lead = (patch: Partial<OffsetLead> = {}) => offsetLead('a', -2, 'workday', patch);
/** Tells the owner. */
export const tell = (patch: Partial<Tell> = {}): Tell => ({
  ...blankTell(),
  to: [{ who: 'owner' }],
  ...patch
});
/** A rule of these two that nothing is missing in. */
export const rule = (patch: Partial<RuleDefinition> = {}): RuleDefinition => ({
  ...blankDefinition(),
  leads: [lead()],
  steps: [tell()],
  ...patch
});
