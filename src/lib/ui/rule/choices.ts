export type { RuleChoices } from '$lib/view/rules.ts';

let made = 0;

/** An id for a part that is new: kept when the rule is saved. */
export function newPartId(): string {
  return `${Date.now().toString(36)}${(made++).toString(36)}`;
}
