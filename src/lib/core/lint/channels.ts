import { agree, many } from '../many.ts';
import { allSteps, type Tell } from '../rule/step-model.ts';
import { waysTo } from '../channel/ways.ts';
import { CHANNEL } from '../channel/channels.ts';
import type { PersonFacts } from '../forecast/facts/facts.ts';
import { list } from '../rule/words/list.ts';
import type { Lint, LintContext } from './model.ts';

/** Tells that insist on channels, each with the people whom it would reach in the weeks to come. */
function insisting({ definition, notices, planner }: LintContext): { step: Tell; readers: PersonFacts[] }[] {
  const tells = allSteps(definition.steps).filter(
    (step): step is Tell => step.kind === 'tell' && step.channels !== null
  );
  return tells.map((step) => {
    const ids = new Set<number>();
    for (const { stepId, readerId, unrung } of notices)
      if (stepId === step.id && unrung === null) ids.add(readerId);
    return { step, readers: [...ids].flatMap((id) => planner.facts.people.get(id) ?? []) };
  });
}

const people = (count: number) => many(count, 'person', 'people');

/** A Tell that insists on several channels: whoever has them gets each message by each. */
export function doubleChannels(context: LintContext): Lint[] {
  return insisting(context).flatMap(({ step, readers }): Lint[] => {
    const channels = step.channels!;
    const twice = readers.filter(
      (reader) => waysTo(reader).filter(({ channel }) => channels.includes(channel)).length > 1
    );
    if (channels.length < 2 || twice.length === 0) return [];
    return [
      {
        code: 'double channels',
        part: 'tell',
        step: step.id,
        message: `${people(twice.length)} would get each message ${channels.length === 2 ? 'twice' : 'several times'}: ${list(channels.map((channel) => CHANNEL[channel].by))}.`,
        mend: { does: 'own channels', words: 'use each person’s own channels', step: step.id }
      }
    ];
  });
}

/** A Tell that insists on channels by which some of those whom it tells are not reached: another takes their place. */
export function channelMissing(context: LintContext): Lint[] {
  return insisting(context).flatMap(({ step, readers }): Lint[] => {
    const channels = step.channels!;
    const without = readers.filter(
      (reader) => !waysTo(reader).some(({ channel }) => channels.includes(channel))
    );
    const [first] = without;
    if (!first) return [];
    const has = agree(without.length, 'has', 'have');
    return [
      {
        code: 'channel missing',
        part: 'tell',
        step: step.id,
        message: `${people(without.length)} (${first.name}${without.length > 1 ? ' and others' : ''}) ${has} no ${list(
          channels.map((channel) => CHANNEL[channel].needs),
          'or'
        )}. ${agree(without.length, 'This person is', 'They are')} told on another channel.`,
        mend: { does: 'own channels', words: 'use each person’s own channels', step: step.id }
      }
    ];
  });
}
