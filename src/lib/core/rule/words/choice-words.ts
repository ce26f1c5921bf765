import type { ClosedDayRule } from '../../ring/lead.ts';
import type { LateChoice } from '../../ring/if-late.ts';
import type { AwayChoice } from '../../ring/reader.ts';
import type { EventLead, HandPlace, ZoneChoice } from '../lead-model.ts';
import type { PastChoices, QuietFor, RuleDefinition, Stop } from '../model.ts';
import type { Gather, ReachChoice, Tell, Wait } from '../step-model.ts';

/**
 * The words of each closed choice of a rule. The editor offers them and the sentence of the rule says them, so that what is read is
 * what was chosen.
 */
type Words<K extends string> = Readonly<Record<K, string>>;

export const REACH_CHOICES: Words<ReachChoice> = {
  'working hours': 'only in their working hours',
  'outside quiet hours': 'not in their quiet hours',
  'any time': 'at any time'
};

/** What happens with a notice of somebody who is on leave. */
export const AWAY_CHOICES: Words<AwayChoice> = {
  'stand-in': 'tell their stand-in, or their manager, or wait',
  pass: 'tell their manager',
  wait: 'wait until they are back'
};

export const GATHER_CHOICES: Words<Gather> = {
  'per recipient': 'one message per person',
  'per task': 'one message per task',
  together: 'one message for all'
};

/** On its own, or in the next digest. */
export const FOLD_CHOICES: Words<'alone' | 'fold'> = {
  alone: 'sent on its own',
  fold: 'kept for their next digest'
};

export const FORCE_CHOICES: Words<NonNullable<Tell['force']>> = {
  urgent: 'urgent: ignores hours, limit and digest',
  must: 'required: ignores “no reminder”, limit and digest'
};

/** On whose clock a time is read; a place of its own is named where it is known. */
export const CLOCK_CHOICES: Words<ZoneChoice['of']> = {
  recipient: 'where the recipient is',
  owner: 'where the owner is',
  project: 'where the project is',
  workspace: 'workspace time',
  named: 'in another place'
};

/** When it rings instead, under the heading that the day is closed. */
export const CLOSED_DAY_CHOICES: Words<ClosedDayRule> = {
  earlier: 'the working day before',
  later: 'the working day after',
  onward: 'the working day further from the date',
  nearest: 'the nearest working day',
  'later-in-month': 'the working day after, in the same month',
  'earlier-in-month': 'the working day before, in the same month',
  'as-is': 'on that day anyway',
  skip: 'not at all'
};

/**
 * What a ring time does on a closed day, by itself: “on a closed day the working day before”.
 * @param calendar by which the day is closed, where that is said
 */
export function closedDayWords(rule: ClosedDayRule, calendar: string | null = null): string {
  if (rule === 'as-is') return 'also on a closed day';
  const day = calendar === null ? 'a closed day' : `a closed day of ${calendar}`;
  return rule === 'skip' ? `not on ${day}` : `on ${day} ${CLOSED_DAY_CHOICES[rule]}`;
}

/** What becomes of a ring that would come too late for its date. */
export const LATE_CHOICES: Words<LateChoice> = {
  keep: 'ring, marked as a late bell',
  forward: 'ring earlier, in the last minute they can be told',
  'ring-anyway': 'ring on time, even outside their hours',
  skip: 'do not ring'
};

export const ORDER_CHOICES: Words<'each' | 'order'> = {
  each: 'tell each as soon as possible',
  order: 'tell the owner first'
};

export function orderOf({ inOrder }: Pick<RuleDefinition, 'inOrder'>): keyof typeof ORDER_CHOICES {
  return inOrder ? 'order' : 'each';
}

/** What the ladder does while the first owner is on leave. */
export const LADDER_AWAY_CHOICES: Words<'runs' | 'stops'> = {
  runs: 'the ladder continues',
  stops: 'the ladder is paused'
};

export function ladderAwayOf({
  awayStops
}: Pick<RuleDefinition, 'awayStops'>): keyof typeof LADDER_AWAY_CHOICES {
  return awayStops ? 'stops' : 'runs';
}

/** Which changes an event counts. */
export const WIDE_CHOICES: Words<'own' | 'wide'> = {
  own: 'not for imports or changes to more than 25 tasks',
  wide: 'also for imports and large changes'
};

export function wideOf({ wide }: EventLead): keyof typeof WIDE_CHOICES {
  return wide ? 'wide' : 'own';
}

/** Where the button of a ring by hand is. */
export const HAND_PLACE_CHOICES: Words<HandPlace> = {
  task: 'on tasks',
  project: 'on projects',
  list: 'for chosen tasks in the list'
};

export const AFTER_WAIT_CHOICES: Words<'matches' | 'regardless'> = {
  matches: 'continue only if it still matches',
  regardless: 'continue even if it no longer matches'
};

export function afterWaitOf({ regardless }: Wait): keyof typeof AFTER_WAIT_CHOICES {
  return regardless ? 'regardless' : 'matches';
}

/** A choice with the case it is for. */
export interface CaseChoices<K extends string> {
  when: string;
  options: Words<K>;
}

/** From whom notices are kept back. */
export const QUIET_CHOICES: Readonly<Record<keyof Stop['quiet'], CaseChoices<QuietFor>>> = {
  acknowledged: {
    when: 'while it is acknowledged',
    options: {
      overdue: 'the person who did so gets no overdue notice',
      everything: 'the person who did so gets nothing of this rule',
      nothing: 'everybody is told'
    }
  },
  stuck: {
    when: 'while it is stuck on others',
    options: {
      overdue: 'its owners get no overdue notice',
      everything: 'its owners get nothing of this rule',
      nothing: 'its owners are told, too'
    }
  }
};

/** What is done about ring times that are already past. */
export const PAST_CHOICES: { readonly [K in keyof PastChoices]: CaseChoices<PastChoices[K]> } = {
  down: {
    when: 'if the server was down',
    options: {
      leave: 'send late, if still useful',
      fold: 'keep for their next digest',
      'do not ring': 'do not ring'
    }
  },
  turnedOn: {
    when: 'when the rule is turned on',
    options: {
      'do not ring': 'skip past ring times',
      'latest at the next opening': 'send the latest when they can next be told'
    }
  },
  created: {
    when: 'when a task is added too late',
    options: {
      latest: 'send the latest, in working hours',
      'at once': 'send the latest at once',
      'do not ring': 'do not ring'
    }
  },
  moved: {
    when: 'when a date moves into the past',
    options: { latest: 'send the latest, in working hours', 'do not ring': 'do not ring' }
  },
  cameTrue: {
    when: 'when a task starts to match later',
    options: {
      'that day': 'ring until that day ends',
      'until use-by': 'ring until it is no longer useful',
      'do not ring': 'do not ring'
    }
  },
  newRecipient: {
    when: 'when the owner changes',
    options: { once: 'tell them once', 'do not ring': 'do not tell them' }
  }
};
