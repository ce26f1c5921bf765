import { recordNames } from '../engine/names.ts';
import { shortSentence } from '../../core/rule/words/sentence.ts';
import { CodedError } from '../../core/errors.ts';
import type { Starter } from '../../core/rule/starters/parts.ts';
import { starters } from '../../core/rule/starters/starters.ts';
import { formatDay } from '../../core/time/day.ts';
import { useOf } from '../../core/rule/starters/use.ts';
import type { StarterView, StarterWeek } from '../../view/rules.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { RuleOutlooks } from './rule-outlook.ts';
import type { RuleService } from './rules.ts';
import type { Actor, Committed } from '../workspace/commit.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What these views ask. */
type Services = Workspace & { outlooks: RuleOutlooks; rules: RuleService };

/** Starters made for this workspace. */
export function startersOf({
  stores,
  clock,
  source
}: Pick<Workspace, 'stores' | 'clock' | 'source'>): Starter[] {
  const { zone } = source.facts.workspace;
  return starters({
    statusIn: (phase) => stores.projects.statuses().find((status) => status.phase === phase)?.id ?? null,
    today: formatDay(zone.dayOf(clock.now())),
    noticeTime: stores.settings.workspace()?.noticeTime ?? '09:00'
  });
}

/** Every starter, at once: what each would come to takes longer, and comes after. */
export function starterList(app: Pick<Workspace, 'stores' | 'clock' | 'source'>): StarterView[] {
  const names = recordNames(app.stores);
  const made = new Set(app.stores.rules.made().map(({ name }) => name));
  return startersOf(app).map(({ key, name, purpose, definition }) => ({
    ...{ key, name, purpose },
    sentence: shortSentence(definition, names),
    use: useOf(definition),
    // What waits for something to happen rings when it does.
    waits: definition.leads.every((lead) => lead.kind === 'event'),
    taken: made.has(name)
  }));
}

/** What a starter would come to here; null where there is none of that key. */
export function starterWeek(app: Services, viewer: Viewer, key: string): StarterWeek | null {
  const starter = startersOf(app).find((one) => one.key === key);
  if (!starter) return null;
  const { name, purpose, definition } = starter;
  const outlook = app.outlooks.ofRule(0, { name, description: purpose, definition }, viewer, 7);
  return { key, watched: outlook.watched, week: outlook.counts.bells, acts: outlook.acts };
}

/** A draft from a starter. @throws CodedError `starter-gone` */
export function addStarter(app: Services, actor: Actor, key: string): Committed<number> {
  const starter = startersOf(app).find((one) => one.key === key);
  if (!starter) throw new CodedError('starter-gone');
  return app.rules.add(actor, starter.name, starter.definition, { description: starter.purpose });
}
