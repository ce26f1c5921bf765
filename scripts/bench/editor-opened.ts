import { ruleChoices } from '../../src/lib/server/rule/rule-choices.ts';
import { fillWorkspace } from '../many-tasks.ts';
import { ACTOR, NOW, VIEWER, written } from './edited-rule.ts';
import { bestMs } from './measure.ts';
import { inWorkspace } from './workspace.ts';

/** How long the server takes for what the editor of a rule is opened with, ms: the first time after a start, and later. */
export function openedMs(): Promise<{ first: number; later: number }> {
  return inWorkspace(NOW, async (container) => {
    fillWorkspace(container, { tasks: 100_000, people: 200, projects: 40 });
    const { result: id } = container.rules.add(ACTOR, written.name, written.definition);
    const open = () => {
      container.outlooks.ofRule(id, written, VIEWER);
      ruleChoices(container, id, VIEWER);
      container.trials.tasksToTry(id, written, VIEWER);
    };
    const began = performance.now();
    open();
    const first = performance.now() - began;
    return Promise.resolve({ first, later: bestMs(3, open) });
  });
}
