import { shortSentence } from '../../core/rule/words/sentence.ts';
import { groupBy } from '../../core/group-by.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortMoment } from '../../core/time/format.ts';
import type { RuleRowView, RuleWeeks } from '../../view/rules.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { ForecastService } from '../tower/forecasts.ts';
import type { RuleService } from './rules.ts';
import { recordNames } from '../engine/names.ts';
import { faultsOfRule } from './rule-fault-views.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & { forecasts: ForecastService; rules: RuleService };

const WEEK_MS = 7 * MS_PER_DAY;

/** The next bell of each rule that has one within a week, on the viewer's wall, and how many it has in that. */
export function ruleWeeks(app: Services, { zone }: Viewer): RuleWeeks {
  const now = app.clock.now();
  const bells = groupBy(
    app.forecasts.coming(now, now + WEEK_MS).filter(({ unrung }) => unrung === null),
    ({ ruleId }) => ruleId
  );
  return Object.fromEntries(
    [...bells].map(([id, mine]) => [
      id,
      { next: shortMoment(mine[0]!.leavesAt, zone, zone.dayOf(now)), week: mine.length }
    ])
  );
}

/** Every rule in its order, with its last bell on the viewer's wall. */
export function ruleList(app: Services, viewer: Viewer): RuleRowView[] {
  const now = app.clock.now();
  const { zone } = viewer;
  const names = recordNames(app.stores);
  return app.stores.rules.made().map((rule) => {
    const opened = app.rules.open(rule.id)!;
    const counts = app.stores.notices.countsOfRule(rule.id);
    return {
      id: rule.id,
      name: rule.name || 'A rule without a name',
      group: rule.group,
      state: rule.state,
      drafted: rule.state === 'on' && rule.draftVersion !== null,
      sentence: shortSentence((opened.live ?? opened.edited).definition, names),
      last: counts.last === null ? null : shortMoment(counts.last, zone, zone.dayOf(now)),
      sent: counts.sent,
      failed: counts.failed,
      faults: faultsOfRule(app, rule.id, viewer)
    };
  });
}
