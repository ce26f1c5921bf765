import { many } from '../../many.ts';
import { capital } from '../../capital.ts';
import { isRung, type Lead } from '../lead-model.ts';
import { DEFAULT_PAST, type PastChoices, type RuleDefinition, type Stop } from '../model.ts';
import {
  LADDER_AWAY_CHOICES,
  LATE_CHOICES,
  ORDER_CHOICES,
  PAST_CHOICES,
  QUIET_CHOICES,
  ladderAwayOf,
  orderOf
} from './choice-words.ts';
import { allSteps, type Branch, type Step } from '../step-model.ts';
import { conditionWords, type Names } from './condition-words.ts';
import { ringWords } from './lead-words.ts';
import { stepWords, type Said } from './step-words.ts';
import { watchWords } from './watch-words.ts';

/** One part of the sentence of a rule; a branch has the parts of its steps inside. */
export interface SentencePart {
  of: 'watch' | 'ring' | 'step' | 'limit';
  words: string;
  inner: readonly SentencePart[];
}

/** What a rule says in a line: which tasks, when, whom it tells and what it changes. */
export function shortSentence(definition: RuleDefinition, names: Names): string {
  return sentenceText([
    watchPart(definition, names),
    ringPart(definition, names, false),
    ...stepParts(definition.steps, said(definition, names, false))
  ]);
}

/**
 * Everything that decides who hears what and when, part by part: two rules that behave otherwise never read the same.
 * What goes by default for past ring times is not said.
 */
export function wholeSentence(definition: RuleDefinition, names: Names): SentencePart[] {
  return [
    watchPart(definition, names),
    ringPart(definition, names, true),
    ...stepParts(definition.steps, said(definition, names, true)),
    ...[
      ...limits(definition),
      ...stopWords(definition.stop, names),
      ...quietWords(definition.stop),
      ...pastWords(definition.past)
    ].map((words) => part('limit', words))
  ];
}

/** The parts as text: “Open tasks · on the due date, 09:00 where the owner is · tell the owner”. */
export function sentenceText(parts: readonly SentencePart[]): string {
  return parts.map(partText).join(' · ');
}

function partText({ words, inner }: SentencePart): string {
  return inner.length === 0 ? words : `${words}: ${inner.map(partText).join(', then ')}`;
}

function part(of: SentencePart['of'], words: string): SentencePart {
  return { of, words, inner: [] };
}

function on({ leads }: RuleDefinition): Lead[] {
  return leads.filter((lead) => lead.on);
}

function said(definition: RuleDefinition, names: Names, whole: boolean): Said {
  return { names, leads: on(definition), whole };
}

function watchPart(definition: RuleDefinition, names: Names): SentencePart {
  return part('watch', capital(watchWords(definition, names)));
}

function ringPart(definition: RuleDefinition, names: Names, whole: boolean): SentencePart {
  const rings = ringWords(on(definition), names, whole);
  return part(
    'ring',
    rings.length === 0 ? 'never rings' : [...rings, ...(whole ? beginWords(definition) : [])].join('; ')
  );
}

function beginWords({ firstRun }: RuleDefinition): string[] {
  return firstRun === null ? [] : [`not before ${firstRun.replace('T', ' ')} workspace time`];
}

function stepParts(steps: readonly Step[], to: Said): SentencePart[] {
  return steps.length === 0
    ? [part('step', 'do nothing')]
    : steps.flatMap((step) =>
        step.kind === 'branch' ? branchParts(step, to) : [part('step', stepWords(step, to))]
      );
}

function branchParts({ sides, otherwise }: Branch, to: Said): SentencePart[] {
  const of = 'step' as const;
  const inner = (steps: readonly Step[]) => stepParts(steps, to);
  return [
    ...sides.map((side, i) => ({
      of,
      words: `${i === 0 ? 'if' : 'else if'} ${conditionWords(side.condition, to.names)}`,
      inner: inner(side.steps)
    })),
    ...(otherwise.length > 0 ? [{ of, words: 'else', inner: inner(otherwise) }] : [])
  ];
}

/** What holds for the whole rule beside its ring times and steps. */
function limits(definition: RuleDefinition): string[] {
  const leads = on(definition);
  return [
    ...(leads.some(({ kind }) => kind === 'offset')
      ? [`if too late: ${LATE_CHOICES[definition.ifLate]}`]
      : []),
    ...(tellsOwnerAndOthers(definition) ? [ORDER_CHOICES[orderOf(definition)]] : []),
    ...(leads.some(isRung)
      ? [`while the first owner is on leave: ${LADDER_AWAY_CHOICES[ladderAwayOf(definition)]}`]
      : [])
  ];
}

function tellsOwnerAndOthers({ steps }: RuleDefinition): boolean {
  const told = allSteps(steps).flatMap((step) => (step.kind === 'tell' ? step.to : []));
  return told.some(({ who }) => who === 'owner') && told.some(({ who }) => who !== 'owner');
}

function stopWords({ condition, afterNotices, until }: Stop, names: Names): string[] {
  return [
    ...(condition ? [`stop when ${conditionWords(condition, names)}`] : []),
    ...(afterNotices === null ? [] : [`stop after ${many(afterNotices, 'notice')} per person`]),
    ...(until === null ? [] : [`stop after ${until}`])
  ];
}

/** Whom it never tells. */
function quietWords({ quiet }: Stop): string[] {
  return (['acknowledged', 'stuck'] as const).flatMap((of) => {
    const { when, options } = QUIET_CHOICES[of];
    return quiet[of] === 'nothing' ? [] : [`${when}: ${options[quiet[of]]}`];
  });
}

/** What is done about past ring times, where it is not what goes by default. */
function pastWords(past: PastChoices): string[] {
  const one = <K extends keyof PastChoices>(of: K) => {
    const { when, options } = PAST_CHOICES[of];
    return past[of] === DEFAULT_PAST[of] ? [] : [`${when}: ${options[past[of]]}`];
  };
  return [
    ...one('down'),
    ...one('turnedOn'),
    ...one('created'),
    ...one('moved'),
    ...one('cameTrue'),
    ...one('newRecipient')
  ];
}

/** The limits, ends and silences of a rule, each a line: what a version is compared by. */
export function limitLines(definition: RuleDefinition, names: Names): { ring: string[]; stop: string[] } {
  return {
    ring: [...beginWords(definition), ...limits(definition)],
    stop: [
      ...stopWords(definition.stop, names),
      ...quietWords(definition.stop),
      ...pastWords(definition.past)
    ]
  };
}

/** Each step of the first level in its parts: a branch has one for each of its sides. */
export function stepLines(definition: RuleDefinition, names: Names): SentencePart[][] {
  return definition.steps.map((step) => stepParts([step], said(definition, names, true)));
}
