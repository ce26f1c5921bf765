import { recipientWords } from '../rule/words/recipient-words.ts';
import { capital } from '../capital.ts';
import type { RuleDefinition } from '../rule/model.ts';
import { allSteps, type Step, type Tell } from '../rule/step-model.ts';
import { inScope } from '../rule/watch.ts';
import type { Act } from '../rule/acts.ts';
import type { Lint, LintContext } from './model.ts';

/** Two Tells in a row of the same rings that tell the same people: the same comes twice. */
export function toldTwice({ definition, names }: LintContext): Lint[] {
  return seriesOf(definition.steps).flatMap((tells) =>
    tells.flatMap((tell, i): Lint[] => {
      const first = tells.slice(0, i).find((one) => answersSame(one, tell) && sharedOf(one, tell).length > 0);
      if (!first) return [];
      const [who] = sharedOf(first, tell);
      return [
        {
          code: 'told twice',
          part: 'tell',
          step: tell.id,
          message: `${capital(recipientWords(who!, names))} ${who!.who === 'members' || who!.who === 'coordinator' ? 'are' : 'is'} told twice at one ring: by “${first.name || 'the first Tell'}” and by “${tell.name || 'this one'}”.`,
          mend: { does: 'take step out', words: 'remove this Tell', step: tell.id }
        }
      ];
    })
  );
}

/** Tells that come at the same instant: those with no wait between them, within each list of steps. */
function seriesOf(steps: readonly Step[]): Tell[][] {
  const series: Tell[][] = [[]];
  for (const step of steps) {
    if (step.kind === 'tell') series[series.length - 1]!.push(step);
    else if (step.kind === 'wait') series.push([]);
    else if (step.kind === 'branch')
      series.push(...step.sides.flatMap((side) => seriesOf(side.steps)), ...seriesOf(step.otherwise));
  }
  return series;
}

function answersSame(a: Tell, b: Tell): boolean {
  return a.leads === null || b.leads === null || a.leads.some((id) => b.leads!.includes(id));
}

function sharedOf(a: Tell, b: Tell): Tell['to'] {
  const key = ({ as: _as, leads: _leads, ...who }: Tell['to'][number]) => JSON.stringify(who);
  const told = new Set(a.to.map(key));
  return b.to.filter((one) => told.has(key(one)));
}

/** What of a task an act sets to one value, by name; null where it only adds. */
function setBy(act: Act): { what: string; words: string; to: string } | null {
  switch (act.act) {
    case 'set status':
      return { what: 'status', words: 'the status', to: String(act.statusId) };
    case 'set priority':
      return { what: 'priority', words: 'the priority', to: act.priority };
    case 'set percent':
      return { what: 'percent', words: 'the percent', to: String(act.percent) };
    case 'set field':
      return { what: `field ${act.fieldId}`, words: 'the same field', to: JSON.stringify(act.value) };
    case 'set due':
      return { what: 'due', words: 'the due date', to: JSON.stringify(act.date) };
    case 'set start':
      return { what: 'start', words: 'the start date', to: JSON.stringify(act.date) };
    case 'assign':
      return { what: 'owner', words: 'the owner', to: JSON.stringify(act.to) };
    case 'unassign':
      return { what: 'owner', words: 'the owner', to: '' };
    case 'move':
      return { what: 'project', words: 'the project', to: String(act.projectId) };
    case 'archive':
    case 'bin':
    case 'park':
      return { what: 'standing', words: 'its place', to: act.act };
    default:
      return null;
  }
}

function setsOf({ steps }: RuleDefinition) {
  return allSteps(steps).flatMap((step) =>
    step.kind === 'do' ? step.acts.flatMap((act) => ({ step: step.id, set: setBy(act) })) : []
  );
}

/** Another rule that sets the same of the same tasks to something else: which of them stands is a matter of chance. */
export function setByTwo({ definition, watched, others }: LintContext): Lint[] {
  return setsOf(definition).flatMap(({ step, set }): Lint[] => {
    if (!set) return [];
    const other = others.find(
      (one) =>
        setsOf(one.definition).some(
          ({ set: its }) => its !== null && its.what === set.what && its.to !== set.to
        ) && watched.some((task) => inScope(one.rule.watch, task))
    );
    if (!other) return [];
    return [
      {
        code: 'set by two rules',
        part: 'do',
        step,
        message: `“${other.rule.name}” also sets ${set.words} of these tasks, to another value. The last one wins.`,
        mend: null
      }
    ];
  });
}
