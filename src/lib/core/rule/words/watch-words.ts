import { OPEN_PHASES, PRIORITIES, type Phase } from '../../task/model.ts';
import { watchedPhases, type RuleDefinition } from '../model.ts';
import { conditionWords, type Names } from './condition-words.ts';
import { list, quoted } from './list.ts';

/** The Watch in words: “open tasks in Permit renewals with high or pressing priority”. */
export function watchWords(definition: Pick<RuleDefinition, 'watch' | 'leads'>, names: Names): string {
  const { watch } = definition;
  const { open, named } = phasesInWords(watchedPhases(definition));
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
  return `${open ? 'open tasks' : 'tasks'}${where}${listed}${tagged}${priority}${named}${also}${condition}`;
}

function phasesInWords(phases: readonly Phase[]): { open: boolean; named: string } {
  if (phases.length === 0) return { open: false, named: ', in no phase' };
  if (!OPEN_PHASES.every((phase) => phases.includes(phase)))
    return { open: false, named: `, ${list(phases, 'or')}` };
  const others = phases.filter((phase) => !OPEN_PHASES.includes(phase));
  return { open: others.length === 0, named: others.length === 0 ? '' : `, open, ${list(others, 'or')}` };
}
