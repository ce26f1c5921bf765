import { MS_PER_DAY } from '$lib/core/time/day.ts';
import { shortMoment } from '$lib/core/time/format.ts';
import { watchWords } from '$lib/core/rule/read-back.ts';
import { signedIn } from '$lib/server/web.ts';
import type { Actions, PageServerLoad } from './$types';

const WEEK_MS = 7 * MS_PER_DAY;

export const load: PageServerLoad = (event) => {
  event.depends('early-bell:clock');
  const { zone } = signedIn(event);
  const { app } = event.locals;
  const now = app.clock.now();
  const bells = app.forecasts.bells(now, now + WEEK_MS, zone).filter(({ unrung }) => unrung === null);
  const projects = new Map(app.stores.projects.all().map(({ id, name }) => [id, name]));
  return {
    rules: app.stores.rules.all().map((rule) => {
      const mine = bells.filter(({ ruleId }) => ruleId === rule.id);
      const opened = app.rules.open(rule.id)!;
      const counts = app.stores.notices.countsOfRule(rule.id);
      return {
        id: rule.id,
        name: rule.name || 'A rule without a name',
        state: rule.state,
        drafted: rule.state === 'on' && rule.draftVersion !== null,
        watch: watchWords(
          (opened.live ?? opened.edited).definition.watch,
          (id) => projects.get(id) ?? 'a project that is gone'
        ),
        next: mine[0] ? shortMoment(mine[0].time.atMs, zone) : null,
        week: mine.length,
        last: counts.last === null ? null : shortMoment(counts.last, zone),
        sent: counts.sent,
        failed: counts.failed
      };
    })
  };
};

export const actions: Actions = {
  add: (event) => {
    const { actor } = signedIn(event);
    const { changeId, result } = event.locals.app.rules.add(actor);
    return { done: 'A rule was started.', changeId, goto: `/rules/${result}` };
  }
};
