import type { Workspace } from './workspace.ts';
import { changeView, type ChangeServices } from '../record/change-views.ts';
import { bellsByReader, personBells, type PersonServices } from '../person/person-views.ts';
import type { EscalationFilter, Escalations } from '../ladder/escalations.ts';
import { adoption } from '../desk/adoption.ts';
import { toldWeek } from '../person/told-week.ts';
import { deskBells } from '../desk/desk-bells.ts';
import { myPeople } from '../desk/my-people.ts';
import { toAcknowledge } from '../desk/waiting.ts';
import { projectRows } from '../project/project-views.ts';
import { ruleWeeks } from '../rule/rule-list.ts';
import { starterWeek } from '../rule/rule-starters.ts';
import type { RuleOutlooks } from '../rule/rule-outlook.ts';
import type { RuleTrials } from '../rule/rule-trials.ts';
import type { RuleInput, RuleService } from '../rule/rules.ts';
import { undoerAs, type SignedIn } from './signed-in.ts';
import type { TowerService } from '../tower/tower.ts';

/** What is asked for these views. */
export type LaterServices = Workspace &
  ChangeServices &
  PersonServices & {
    escalations: Escalations;
    outlooks: RuleOutlooks;
    rules: RuleService;
    tower: TowerService;
    trials: RuleTrials;
  };
/** Who asks. */
type Who = SignedIn;
/** A rule as it is written in the editor. */
interface RuleWritten {
  ruleId: number;
  input: RuleInput;
}

/**
 * What takes long to be computed and comes after its page, by name: each reads alone, and its arguments and what it gives are plain data.
 */
export const LATER = {
  /** What a starter would come to; null where there is none of that key. */
  starter: (app: LaterServices, { viewer }: Who, { key }: { key: string }) => starterWeek(app, viewer, key),
  /** The next bell and the bells of a week of each rule. */
  'rule weeks': (app: LaterServices, { viewer }: Who) => ruleWeeks(app, viewer),
  /** What one rule would do in four weeks, as it is written. */
  'rule outlook': (app: LaterServices, { viewer }: Who, { ruleId, input }: RuleWritten) =>
    app.outlooks.ofRule(ruleId, input, viewer),
  /** What is said before a rule is turned on as it is written. */
  'rule check': (app: LaterServices, { viewer }: Who, { ruleId, input }: RuleWritten) =>
    app.outlooks.check(ruleId, input, viewer),
  /** A rule as it is written beside the version that is live. */
  'rule beside': (app: LaterServices, { viewer }: Who, { ruleId, input }: RuleWritten) =>
    app.outlooks.beside(ruleId, input, viewer),
  /** The words of its Tells, read about a task, or about the first that it watches. */
  'rule words': (
    app: LaterServices,
    { viewer }: Who,
    { ruleId, input, taskId }: RuleWritten & { taskId: number | null }
  ) => app.trials.words(ruleId, input, taskId, viewer),
  /** Tasks that it may be tried on. */
  'tasks to try': (app: LaterServices, { viewer }: Who, { ruleId, input }: RuleWritten) =>
    app.trials.tasksToTry(ruleId, input, viewer),
  /** Every project that they see. */
  projects: (app: LaterServices, { sight }: Who) => projectRows(app, sight),
  /** Tasks on ladders. */
  escalations: (app: LaterServices, { viewer, sight }: Who, filter: EscalationFilter) =>
    app.escalations.view(filter, viewer, sight),
  /** How many bells each person is told of in a week. */
  'people bells': (app: LaterServices, { sight }: Who) => bellsByReader(app, sight),
  /** The bells of a person's next two weeks: the first, or all. */
  'person bells': (app: LaterServices, who: Who, asked: { id: number; all: boolean }) =>
    personBells(app, asked, who),
  /** What comes to them in seven days. */
  'told week': (app: LaterServices, who: Who) => toldWeek(app, who),
  /** The bells of the days of a Desk. */
  'desk bells': (app: LaterServices, { sight }: Who, { id }: { id: number }) => deskBells(app, id, sight),
  /** Their tasks on ladders, to be acknowledged. */
  'desk ladders': (app: LaterServices, who: Who) => toAcknowledge(app, who),
  /** Whose Desk is not kept. */
  adoption: (app: LaterServices, { viewer }: Who) => adoption(app, viewer),
  /** Those who answer to them. */
  'my people': (app: LaterServices, who: Who) => myPeople(app, who),
  /** A change that wrote very much, as it opens; null where there is none for them to see. */
  change: (app: LaterServices, who: Who, { id }: { id: number }) =>
    changeView(app, id, who.viewer, undoerAs(who)),
  /** When the first notice to each reader leaves, of those that leave by an instant: workspace clock, ms. */
  'first bells': (app: LaterServices, _: Who, { from, until }: { from: number; until: number }) => [
    ...app.forecasts.firstByReader(from, until)
  ],
  /** The day ahead of the Bell tower, and what its open tasks come to. */
  'tower day': (app: LaterServices, { viewer }: Who) => app.tower.day(viewer)
} satisfies Record<string, (app: LaterServices, who: Who, args: never) => unknown>;

export type LaterName = keyof typeof LATER;

export interface LaterView<N extends LaterName> {
  args: Parameters<(typeof LATER)[N]> extends [unknown, unknown, infer Args] ? Args : null;
  view: ReturnType<(typeof LATER)[N]>;
}
