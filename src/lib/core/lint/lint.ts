import { channelMissing, doubleChannels } from './channels.ts';
import { exactDay } from './exact-day.ts';
import { nothingAfterDue, oneStatus } from './coverage.ts';
import { followUps } from './follow-ups.ts';
import { lateBells } from './late-bells.ts';
import { loop } from './loop.ts';
import type { Lint, LintContext } from './model.ts';
import { leadLongerThanRhythm } from './rhythm.ts';
import { rush } from './rush.ts';
import { checkRarerThanWindow, findsAgain } from './schedules.ts';
import { setByTwo, toldTwice } from './twice.ts';
import { wordsAgainstLead } from './words-against-lead.ts';

const LINTS: readonly ((context: LintContext) => Lint[])[] = [
  lateBells,
  rush,
  loop,
  followUps,
  checkRarerThanWindow,
  findsAgain,
  exactDay,
  leadLongerThanRhythm,
  wordsAgainstLead,
  oneStatus,
  nothingAfterDue,
  toldTwice,
  doubleChannels,
  channelMissing,
  setByTwo
];

/** Everything that is doubtful about a rule that could be turned on all the same, each at its part and with what takes it away. */
export function lintRule(context: LintContext): Lint[] {
  return LINTS.flatMap((lint) => lint(context));
}
