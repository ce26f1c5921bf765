import { groupBy } from '../../core/group-by.ts';
import { watchWords } from '../../core/rule/read-back.ts';
import { MS_PER_DAY } from '../../core/time/day.ts';
import { shortMoment } from '../../core/time/format.ts';
import type { RuleRowView } from '../../view/rules.ts';
import type { Container } from '../container.ts';
import { recordNames } from '../engine/names.ts';
import { faultsOfRule } from './rule-fault-views.ts';
import type { Viewer } from './viewer.ts';

const WEEK_MS = 7 * MS_PER_DAY;

/** Every rule in its order, with its next and last bell on the viewer's wall. */
export function ruleList(app: Container, viewer: Viewer): RuleRowView[] {
  const now = app.clock.now();
  const { zone } = viewer;
  const bells = groupBy(
    app.forecasts.coming(now, now + WEEK_MS).filter(({ unrung }) => unrung === null),
    ({ ruleId }) => ruleId
  );
  const names = recordNames(app.stores);
  return app.stores.rules.made().map((rule) => {
    const mine = bells.get(rule.id) ?? [];
    const opened = app.rules.open(rule.id)!;
    const counts = app.stores.notices.countsOfRule(rule.id);
    return {
      id: rule.id,
      name: rule.name || 'A rule without a name',
      group: rule.group,
      state: rule.state,
      drafted: rule.state === 'on' && rule.draftVersion !== null,
      watch: watchWords((opened.live ?? opened.edited).definition, names),
      next: mine[0] ? shortMoment(mine[0].leavesAt, zone, zone.dayOf(now)) : null,
      week: mine.length,
      last: counts.last === null ? null : shortMoment(counts.last, zone, zone.dayOf(now)),
      sent: counts.sent,
      failed: counts.failed,
      faults: faultsOfRule(app.stores, rule.id, viewer)
    };
  });
}
