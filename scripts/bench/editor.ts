import { ruleBasis } from '../../src/lib/server/rule/rule-basis.ts';
import type { RuleBasis } from '../../src/lib/view/rule-basis.ts';
import { fillWorkspace } from '../many-tasks.ts';
import { built } from './built.ts';
import { ACTOR, NOW, VIEWER, written } from './edited-rule.ts';
import { bestMs, type Figure } from './measure.ts';
import { inWorkspace } from './workspace.ts';

type Browser = typeof import('../../src/lib/view/rule-basis.ts');
type Server = typeof import('./editor-opened.ts');
/** How it is run here adds work to every function: what is measured is built first, as it is for those who use it. */
const builtForBrowser = () => built<Browser>('src/lib/view/rule-basis.ts', { minify: true });
const builtForServer = () => built<Server>('scripts/bench/editor-opened.ts', { ssr: true });

/** What one waits for in the editor of a rule: after a change of it, and when it is opened. */
export async function benchEditor(): Promise<Figure[]> {
  const inBrowser = await inWorkspace(NOW, async (container) => {
    fillWorkspace(container, { tasks: 9_999, people: 200, projects: 40 });
    const { result: id } = container.rules.add(ACTOR, written.name, written.definition);
    const basis = JSON.parse(JSON.stringify(ruleBasis(container, id, VIEWER))) as RuleBasis;
    const compute = (await builtForBrowser()).openBasis(basis);
    const bytes = JSON.stringify(basis).length;
    let bells = 0;
    const ms = bestMs(9, () => (bells = compute(written, 0).counts.bells));
    return Promise.resolve({ ms, bells, bytes });
  });
  const opened = await (await builtForServer()).openedMs();
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
      ours: `${opened.later.toFixed(0)} ms; ${opened.first.toFixed(0)} ms the first time after a start`,
      ...none,
      note: 'bar: under 500 ms'
    }
  ];
}
