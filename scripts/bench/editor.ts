import { blankDefinition, blankTell, offsetLead } from '../../src/lib/core/rule/model.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { ruleBasis } from '../../src/lib/server/service/rule-basis.ts';
import { ruleChoices } from '../../src/lib/server/service/rule-choices.ts';
import { openBasis, type RuleBasis } from '../../src/lib/view/rule-basis.ts';
import { fillWorkspace } from '../many-tasks.ts';
import { bestMs, type Figure } from './measure.ts';
import { inWorkspace } from './workspace.ts';

const NOW = Date.parse('2026-03-05T07:00Z');
const ACTOR = { personId: 1, source: 'person' as const };
const VIEWER = { zone: zoneNamed('Europe/Lisbon'), personId: 1 };

/** Two leads, a condition, and the owner's manager told too. */
const INPUT = {
  name: 'Ahead of the date',
  description: '',
  definition: {
    ...blankDefinition(),
    watch: {
      ...blankDefinition().watch,
      condition: { field: 'priority', op: 'any of', value: ['high', 'pressing', 'ordinary'] } as const
    },
    leads: [offsetLead('five', -5, 'workday'), offsetLead('one', -1, 'workday')],
    steps: [{ ...blankTell(), to: [{ who: 'owner' as const }, { who: 'manager' as const, up: 1 }] }]
  }
};
type Input = Parameters<ReturnType<typeof openBasis>>[0] & { description: string };
const written = INPUT as unknown as Input;

/** What one waits for in the editor of a rule: after a change of it, and when it is opened. */
export async function benchEditor(): Promise<Figure[]> {
  const inBrowser = await inWorkspace(NOW, async (container) => {
    fillWorkspace(container, { tasks: 9_999, people: 200, projects: 40 });
    const { result: id } = container.rules.add(ACTOR, written.name, written.definition);
    const basis = JSON.parse(JSON.stringify(ruleBasis(container, id, VIEWER))) as RuleBasis;
    const compute = openBasis(basis);
    const bytes = JSON.stringify(basis).length;
    let bells = 0;
    const ms = bestMs(9, () => (bells = compute(written, 0).counts.bells));
    return Promise.resolve({ ms, bells, bytes });
  });
  const opened = await inWorkspace(NOW, async (container) => {
    fillWorkspace(container, { tasks: 100_000, people: 200, projects: 40 });
    const { result: id } = container.rules.add(ACTOR, written.name, written.definition);
    return Promise.resolve(
      bestMs(3, () => {
        container.outlooks.ofRule(id, written, VIEWER);
        ruleChoices(container, id, VIEWER);
        container.outlooks.tasksToTry(id, written, VIEWER);
      })
    );
  });
  const none = { peer: null, ratio: null };
  return [
    {
      what: 'outlook of a rule after a change of it, 10,000 tasks, as the worker computes it',
      ours: `${inBrowser.ms.toFixed(0)} ms, ${inBrowser.bells.toLocaleString('en')} bells; ${(inBrowser.bytes / 2 ** 20).toFixed(1)} MB are read once`,
      ...none,
      note: 'bar: under 100 ms'
    },
    {
      what: 'the editor of a rule is opened with its outlook, 100,000 tasks',
      ours: `${opened.toFixed(0)} ms`,
      ...none,
      note: 'bar: under 500 ms'
    }
  ];
}
