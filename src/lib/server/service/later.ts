import type { Container } from '../container.ts';
import { changeView } from './change-views.ts';
import { bellsByReader, personBells } from './person-views.ts';
import { ruleWeeks } from './rule-list.ts';
import { starterViews } from './rule-starters.ts';
import type { RuleInput } from './rules.ts';
import { undoerAs, type SignedIn } from './signed-in.ts';

/** Who asks. */
type Who = SignedIn;

/**
 * What takes long to be computed and comes after its page, by name: each reads alone, and its arguments and what it gives are plain data.
 */
export const LATER = {
  /** Starters with what each would come to. */
  starters: (app: Container, { viewer }: Who) => starterViews(app, viewer),
  /** The next bell and the bells of a week of each rule. */
  'rule weeks': (app: Container, { viewer }: Who) => ruleWeeks(app, viewer),
  /** What one rule would do in four weeks, as it is written. */
  'rule outlook': (
    app: Container,
    { viewer }: Who,
    { ruleId, input }: { ruleId: number; input: RuleInput }
  ) => app.outlooks.ofRule(ruleId, input, viewer),
  /** How many bells each person is told of in a week. */
  'people bells': (app: Container, { sight }: Who) => bellsByReader(app, sight),
  /** The bells of a person's next two weeks. */
  'person bells': (app: Container, { viewer, sight }: Who, { id }: { id: number }) =>
    personBells(app, id, viewer, sight),
  /** A change that wrote very much, as it opens; null where there is none for them to see. */
  change: (app: Container, who: Who, { id }: { id: number }) =>
    changeView(app, id, who.viewer, undoerAs(who)),
  /** When the first notice to each reader leaves, of those that leave by an instant: workspace clock, ms. */
  'first bells': (app: Container, _: Who, { from, until }: { from: number; until: number }) => [
    ...app.forecasts.firstByReader(from, until)
  ],
  /** The day ahead of the Bell tower, and what its open tasks come to. */
  'tower day': (app: Container, { viewer }: Who) => app.tower.day(viewer)
} satisfies Record<string, (app: Container, who: Who, args: never) => unknown>;

export type LaterName = keyof typeof LATER;

export interface LaterView<N extends LaterName> {
  args: Parameters<(typeof LATER)[N]> extends [unknown, unknown, infer Args] ? Args : null;
  view: ReturnType<(typeof LATER)[N]>;
}
