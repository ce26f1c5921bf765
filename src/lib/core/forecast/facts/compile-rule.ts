import type { LateChoice } from '../../ring/if-late.ts';
import { compileCondition, type CompiledCondition } from '../../rule/compile-condition.ts';
import { testsOf } from '../../rule/condition.ts';
import { asksForLate } from '../../rule/late-watch.ts';
import type { PastChoices, RuleDefinition, Stop } from '../../rule/model.ts';
import { compileProgram, type Program } from '../../rule/program.ts';
import { compileWatch, type CompiledWatch } from '../../rule/watch.ts';
import { parseFirstRun, type FirstRun } from '../../rule/first-run.ts';
import { parseDay, type Day } from '../../time/day.ts';
import { compileLead, joinLadder, markLate, type CompiledLead } from './compile-lead.ts';
import { leadOfReminder, remindersFor } from './reminders.ts';
import { ORDINARY_FACTS, type Facts, type TaskFacts } from './facts.ts';

/** A rule compiled once for many tasks. */
export interface RuleFacts {
  id: number;
  name: string;
  position: number;
  keeperId: number | null;
  watch: CompiledWatch;
  /** Those that are on. */
  leads: readonly CompiledLead[];
  /** Of these, the ones whose rings are planned for each task: offsets, and becoming overdue. */
  planned: readonly CompiledLead[];
  program: Program;
  stop: CompiledStop;
  past: PastChoices;
  /** Step 9: what becomes of a ring that would be late. */
  ifLate: LateChoice;
  /** It tells the owner and others, and the others wait for the owner's notice. */
  ordered: boolean;
  /** The built-in rule of reminders: each task gives its own leads. */
  ofTask: boolean;
  /** Of that rule: what people want to be reminded of for everything of theirs. */
  standing: Facts['standing'];
  /**
   * Nothing but Tells at planned leads that ring once: what it sends can be computed for each task without going through time.
   */
  plain: boolean;
}

export interface CompiledStop {
  condition: CompiledCondition | null;
  afterNotices: number | null;
  /** The first moment at which it rings, on the workspace's wall. */
  from: FirstRun | null;
  /** The last day on which it rings. */
  until: Day | null;
  quiet: Stop['quiet'];
}

/** Within what a rule is compiled. */
interface CompiledWithin {
  /** Who answers for it; their own private tasks are seen by it. */
  keeperId?: number | null;
  /** Whether it is the built-in rule of reminders. */
  ofTask?: boolean;
  /** Own fields, saved lists, and what people want for everything of theirs. */
  world?: Pick<Facts, 'ownKinds' | 'lists' | 'standing'>;
}

/**
 * Compiles a rule; leads that are switched off are left out.
 * @throws CodedError for a time, zone, date or recurrence that cannot be read
 */
export function compileRule(
  id: number,
  name: string,
  position: number,
  definition: RuleDefinition,
  { keeperId = null, ofTask = false, world = ORDINARY_FACTS }: CompiledWithin = {}
): RuleFacts {
  const own = world.ownKinds;
  const leads = definition.leads
    .map((lead, order) => compileLead(lead, order, null, id))
    .filter(({ lead }) => lead.on);
  joinLadder(leads, definition.awayStops);
  if (asksForLate(definition.watch.condition)) markLate(leads);
  const program = compileProgram(definition.steps, own);
  const watch = compileWatch(definition, keeperId, world, ofTask, id);
  const { condition, afterNotices, until, quiet } = definition.stop;
  const stop = {
    condition: compileCondition(condition, own),
    afterNotices,
    from: definition.firstRun === null ? null : parseFirstRun(definition.firstRun),
    until: until === null ? null : parseDay(until),
    quiet
  };
  const counts = watch.countsRings || testsOf(condition).some(({ field }) => field === 'rings so far');
  const folds = [...program.tells.values()].some(({ step }) => step.fold);
  const once = leads.every(
    (lead) =>
      isSetOff(lead) ||
      (lead.anchor !== null && lead.anchor !== 'earlier ring' && !lead.rung && !repeats(lead))
  );
  return {
    id,
    name,
    position,
    keeperId,
    watch,
    leads,
    planned: leads.filter(({ anchor }) => anchor !== null),
    program,
    stop,
    past: definition.past,
    ifLate: definition.ifLate,
    ordered: definition.inOrder && tellsOwnerAndOthers(program),
    ofTask,
    standing: ofTask ? world.standing : ORDINARY_FACTS.standing,
    plain:
      definition.ifLate === 'keep' && once && program.tellsOnly && !folds && !counts && afterNotices === null
  };
}

/** Whether a lead rings when something happens, or when somebody rings it: where nothing but Tells is foreseen, neither is. */
export function isSetOff({ anchor, lead }: CompiledLead): boolean {
  return anchor === null && (lead.kind === 'event' || lead.kind === 'by hand');
}

/** Whether the Tells that are timed for each recipient tell the owner and somebody else. */
function tellsOwnerAndOthers({ leading }: Program): boolean {
  const told = leading.flatMap(({ step }) => step.to.map(({ who }) => who));
  return told.includes('owner') && told.some((who) => who !== 'owner');
}

/** Whether a lead rings more than once for one date. A repeat of nothing, which no rule that is on has, stands still and is none. */
export function repeats({ lead }: CompiledLead): boolean {
  return lead.kind === 'offset' && lead.repeat !== null && lead.repeat.n > 0;
}

/** A lead of a rule by its id, for a task. */
export function leadOf(
  rule: RuleFacts | undefined,
  task: TaskFacts | null | undefined,
  leadId: string
): CompiledLead | undefined {
  const leads = rule?.ofTask
    ? task
      ? remindersFor(task, rule.standing).map((reminder) => leadOfReminder(task, reminder))
      : []
    : (rule?.leads ?? []);
  return leads.find(({ lead: { id } }) => id === leadId);
}
