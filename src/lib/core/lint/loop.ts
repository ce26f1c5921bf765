import { ANCHORS } from '../anchor/anchors.ts';
import type { Act } from '../rule/acts.ts';
import type { RuleDefinition } from '../rule/model.ts';
import { allSteps, makesTasks } from '../rule/step-model.ts';
import { isRung, type Lead } from '../rule/lead-model.ts';
import type { Lint, LintContext } from './model.ts';

/** What an act changes, by the names that leads and events go by. */
function changes({ steps }: RuleDefinition): Set<string> {
  const changed = new Set<string>();
  for (const step of allSteps(steps))
    if (step.kind === 'do') for (const act of step.acts) for (const one of changedBy(act)) changed.add(one);
  return changed;
}

function changedBy(act: Act): string[] {
  switch (act.act) {
    case 'set status':
    case 'update open tasks':
      return ['status'];
    case 'set due':
      return ['due'];
    case 'set start':
      return ['start'];
    case 'set priority':
      return ['priority'];
    case 'set percent':
      return ['percent'];
    case 'set field':
      return [`field ${act.fieldId}`];
    case 'assign':
    case 'unassign':
      return ['owner'];
    case 'comment':
      return ['comment'];
    case 'follow-up':
    case 'copy':
      return ['created'];
    case 'archive':
      return ['archived'];
    case 'ring another':
      return [`rule ${act.ruleId}`];
    default:
      return [];
  }
}

/** What rings a rule: what it listens to, and the dates it counts from. */
function rungBy(ruleId: number, { leads }: RuleDefinition): Set<string> {
  return new Set([`rule ${ruleId}`, ...leads.filter(({ on }) => on).flatMap(sources)]);
}

function sources(lead: Lead): readonly string[] {
  if (lead.kind === 'offset') {
    if (lead.anchor === 'own date') return lead.field ? [`field ${lead.field.id}`] : [];
    return ANCHORS[lead.anchor].movedBy;
  }
  if (lead.kind !== 'event') return [];
  switch (lead.event) {
    case 'phase changed':
    case 'status changed':
    case 'finished':
    case 'reopened':
    case 'closed':
      return ['status'];
    case 're-dated':
      return ['due'];
    case 'assigned':
      return ['owner'];
    case 'commented':
      return ['comment'];
    case 'field changed':
      return [typeof lead.field === 'number' ? `field ${lead.field}` : columnOf(lead.field ?? '')];
    default:
      return [lead.event];
  }
}

function columnOf(column: string): string {
  if (column.startsWith('due')) return 'due';
  return column.startsWith('start') ? 'start' : column;
}

/** Rules that set each other off in a circle; a rule that asks for a condition that its own act ends is none. */
export function loop({ ruleId, definition, rule, others }: LintContext): Lint[] {
  const all = [{ id: ruleId, rule, definition }, ...others.map((other) => ({ ...other, id: other.rule.id }))];
  const sets = new Map(all.map(({ id, definition: one }) => [id, changes(one)]));
  const rings = new Map(all.map(({ id, definition: one }) => [id, rungBy(id, one)]));
  const follows = (from: number) =>
    all.filter(
      ({ id }) =>
        (id !== from || isOwnLoop(definition)) &&
        [...sets.get(from)!].some((what) => rings.get(id)!.has(what) && (what !== 'created' || seesMade(id)))
    );
  const seesMade = (id: number) => {
    const one = all.find((other) => other.id === id)!.definition;
    return one.watch.made || !makesTasks(one.steps);
  };
  const path = pathBack(ruleId, (id) => follows(id).map((one) => one.id));
  if (!path) return [];
  const name = (id: number) => `“${all.find((one) => one.id === id)!.rule.name || 'this rule'}”`;
  const message =
    path.length === 1
      ? 'Its change makes it ring again. It stops after three times per task.'
      : `${[...path, ruleId].map(name).join(' starts ')}: the rules start each other. The chain stops after eight.`;
  return [{ code: 'loop', part: 'do', message, mend: null }];
}

/** A rule's own change never sets off its Watch, but a date that it moves arms its rings anew. */
function isOwnLoop(definition: RuleDefinition): boolean {
  const moved = changes(definition);
  return definition.leads.some(
    (lead) =>
      lead.on &&
      lead.kind === 'offset' &&
      (isRung(lead)
        ? moved.has('due') || moved.has('owner')
        : (lead.anchor === 'due' || lead.anchor === 'start') && moved.has(lead.anchor))
  );
}

/** The shortest way from a rule back to itself: the rules on it, itself first; null when there is none. */
function pathBack(start: number, next: (id: number) => number[]): number[] | null {
  const queue: number[][] = [[start]];
  const met = new Set<number>();
  for (let path = queue.shift(); path; path = queue.shift()) {
    for (const id of next(path[path.length - 1]!)) {
      if (id === start) return path;
      if (met.has(id)) continue;
      met.add(id);
      queue.push([...path, id]);
    }
  }
  return null;
}
