import { groupBy } from '../../core/group-by.ts';
import { bundle } from '../../core/forecast/decide/bundle.ts';
import { leadOf, type RuleFacts } from '../../core/forecast/facts/compile-rule.ts';
import { limitsOf, outgoingOf } from '../../core/forecast/decide/day-limits.ts';
import { explainNotice } from '../../core/forecast/explain/explain.ts';
import type { PersonFacts, TaskFacts } from '../../core/forecast/facts/facts.ts';
import { noticeKind } from '../../core/forecast/decide/notice-kind.ts';
import type { Planner } from '../../core/forecast/plan/planner.ts';
import type { PlannedNotice } from '../../core/forecast/plan/planned-notice.ts';
import { capAndFold } from '../../core/ring/cap.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import { HELD_WORDS, foldedWords } from '../engine/leaving.ts';
import type { Composed, Said, Words } from '../engine/words.ts';

/** A message that will be sent if nothing changes. */
export interface ForetoldMessage extends Composed {
  /** When it leaves. */
  date: InstantMs;
  to: string[];
  notices: PlannedNotice[];
}

type Foretold = Said & { planned: PlannedNotice; rule: RuleFacts; task: TaskFacts };

/** A forecast's notice with what its words are made of. */
export function saidOf(
  planned: PlannedNotice,
  of: {
    planner: Planner;
    rules: ReadonlyMap<number, RuleFacts>;
    tasks: ReadonlyMap<number, TaskFacts>;
    now: InstantMs;
  }
): Foretold {
  const rule = of.rules.get(planned.ruleId)!;
  const task = of.tasks.get(planned.taskId)!;
  const tell = rule.program.tells.get(planned.stepId)!;
  const told =
    tell.single === null && !rule.ofTask ? of.planner.audience.told(rule, tell, task, planned.leadId) : [];
  const copied = told.find(({ person }) => person.id === planned.recipientId)?.as ?? 'to';
  const why = explainNotice(of.planner, { rule, task }, planned, of.now);
  const lead = leadOf(rule, task, planned.leadId);
  const kind = lead ? noticeKind(tell, lead) : 'reminder';
  return { planned, rule, tell, task, notice: { ...planned, copied, kind, why } };
}

/** Notices as the messages that they leave in, in the order in which they leave. */
export function foretold(all: readonly Foretold[], planner: Planner, words: Words): ForetoldMessage[] {
  const groups = groupBy(all, ({ planned, tell }) => {
    const { readerId, leavesAt, folded, ruleId, stepId } = planned;
    return tell.step.gather === 'together' && !folded
      ? `${leavesAt}/all/${ruleId}/${stepId}`
      : `${leavesAt}/${readerId}/${folded ? 'folded' : ''}`;
  });
  return [...groups.values()]
    .flatMap((said) => messagesOf(said, planner, words))
    .sort((a, b) => a.date - b.date);
}

function messagesOf(said: readonly Foretold[], planner: Planner, words: Words): ForetoldMessage[] {
  const { people, workspace } = planner.facts;
  const first = said[0]!;
  const reader = people.get(first.planned.readerId)!;
  const message = (of: readonly Foretold[], composed: Composed, readers = [reader]): ForetoldMessage => ({
    ...composed,
    date: first.planned.leavesAt,
    to: readers.map(({ email }) => email!),
    notices: of.map(({ planned }) => planned)
  });
  if (first.planned.folded) {
    const capped = said.some(({ tell }) => !tell.step.fold);
    return [
      message(
        said,
        said.length === 1
          ? words.compose(said, reader)
          : words.composeGathered(said, reader, foldedWords(reader, capped))
      )
    ];
  }
  if (first.tell.step.gather === 'together') {
    const readers = [...new Set(said.map(({ planned }) => people.get(planned.readerId)!))];
    const tasks = [...new Map(said.map((one) => [one.task.id, one])).values()];
    return [message(said, words.compose(tasks, { name: 'all', zone: workspace.zone }, false), readers)];
  }
  return apart(said, reader, planner).map(({ of, gathered }) =>
    message(of, gathered ? words.composeGathered(of, reader, HELD_WORDS) : words.compose(of, reader))
  );
}

/** The messages of one reader at one instant, as step 8 makes them of notices that are not put off. */
function apart(
  said: readonly Foretold[],
  reader: PersonFacts,
  planner: Planner
): { of: Foretold[]; gathered: boolean }[] {
  const bundles = bundle(
    said.map((one) => {
      const lead = leadOf(one.rule, one.task, one.planned.leadId)!;
      const { leavesAt, readerId, ruleId, stepId, taskId, recipientId } = one.planned;
      const kind = noticeKind(one.tell, lead);
      const forced = one.tell.step.force !== null;
      return {
        leavesAt,
        readerId,
        ruleId,
        stepId,
        taskId,
        recipientId,
        kind,
        forced,
        gather: one.tell.step.gather,
        one
      };
    })
  ).map((notices) => notices.map(({ one }) => one));
  const outgoing = bundles.map(([first], i) => ({
    ...outgoingOf(i, first!.planned, first!.rule, first!.task, planner.dates.momentOf('due', first!.task)),
    // What folds has been folded by now.
    fold: false
  }));
  // Nothing is put off here: the forecast has done so.
  const free = { ...limitsOf(reader, new Map()), cap: null };
  return capAndFold(outgoing, free).map(({ how, ids }) => ({
    of: ids.flatMap((i) => bundles[i]!),
    gathered: how === 'gathered' && ids.length > 1
  }));
}
