import { OPEN_PHASES, PRIORITIES, type Phase } from '../../task/model.ts';
import { watchedPhases, type RuleDefinition } from '../model.ts';
import { conditionWords, type Names } from './condition-words.ts';
import { list, quoted } from './list.ts';

/** The Watch in words: “open tasks in Permit renewals with high or pressing priority”. */
export function watchWords(definition: Pick<RuleDefinition, 'watch' | 'leads'>, names: Names): string {
  const { watch } = definition;
  const { tasks, named } = phasesInWords(watchedPhases(definition));
  const where =
    watch.projects === null ? '' : ` in ${list(watch.projects.map(names.project), 'or') || 'no project'}`;
  const listed = watch.list === null ? '' : ` of the list “${names.list(watch.list)}”`;
  const tagged = watch.tags.length === 0 ? '' : ` tagged ${list(watch.tags.map(quoted), 'or')}`;
  const priority =
    watch.priorities.length === PRIORITIES.length
      ? ''
      : ` with ${list(watch.priorities, 'or') || 'no'} priority`;
  const besides = [...watch.seen.map((one) => `${one} ones`), ...(watch.made ? ['follow-ups of rules'] : [])];
  const also = besides.length === 0 ? '' : `, also ${list(besides)}`;
  const condition = watch.condition ? `, if ${conditionWords(watch.condition, names)}` : '';
  return `${tasks}${where}${listed}${tagged}${priority}${named}${also}${condition}`;
}

function phasesInWords(phases: readonly Phase[]): { tasks: string; named: string } {
  if (phases.length === 0) return { tasks: 'no tasks', named: ', because no phase is chosen' };
  if (!OPEN_PHASES.every((phase) => phases.includes(phase)))
    return { tasks: 'tasks', named: ` that are ${list(phases, 'or')}` };
  const others = phases.filter((phase) => !OPEN_PHASES.includes(phase));
  return { tasks: `${list(['open', ...others])} tasks`, named: '' };
}
