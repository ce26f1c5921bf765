import { packDetails, packTask } from '../../core/forecast/packed.ts';
import type { RuleHistoryRecord } from '../../core/forecast/rule-history.ts';
import { historyOf } from '../engine/history.ts';
import { readFactsInput } from '../engine/read-facts.ts';
import type { RuleBasis } from '../../view/rule-basis.ts';
import type { Container } from '../container.ts';
import type { Viewer } from './viewer.ts';

/** Above so many tasks, or so much told by the rule, the server computes instead of the browser. */
export const MOST_IN_BROWSER = 10_000;
const MOST_TOLD = 20_000;
const HOUR_MS = 3_600_000;

type Services = Pick<Container, 'stores' | 'source' | 'clock'>;

/** What the browser computes the outlook of a rule from; null where there is too much of it. */
export function ruleBasis(app: Services, ruleId: number, viewer: Viewer): RuleBasis | null {
  const { stores, source, clock } = app;
  if (stores.tasks.count() > MOST_IN_BROWSER) return null;
  const told = stores.tellings.ofRule(ruleId);
  if (told.length > MOST_TOLD) return null;
  const rule = stores.rules.byId(ruleId);
  // Nobody is sent the name of another person's private task.
  const tasks = stores.tasks
    .facts()
    .map((task) => (task.private && task.ownerId !== viewer.personId ? { ...task, name: '' } : task));
  const detailsOf = source.allDetails();
  const { history, why } = historyRecord(app, ruleId, told);
  return {
    ...{ ruleId, position: rule?.position ?? 0, keeperId: rule?.keeperId ?? null },
    facts: readFactsInput(stores),
    tasks: tasks.map(packTask),
    details: tasks.map(({ id }) => [id, packDetails(detailsOf(id))]),
    named: {
      projects: stores.projects.all().map(named),
      people: stores.people.all().map(({ id, name, erased }) => ({ id, name, erased })),
      groups: stores.people.groups().map(named),
      statuses: stores.projects.statuses().map(named),
      sections: stores.projects.sections().map(named),
      fields: stores.fields.all().map(({ id, name, kind }) => ({ id, name, kind })),
      readers: stores.readers.lists().map(named),
      rules: stores.rules.made().map(named),
      lists: stores.savedLists.all().map(named)
    },
    others: source.liveRules().flatMap(({ facts, versionId }) => {
      const version = facts.id === ruleId || facts.ofTask ? null : stores.rules.version(versionId);
      const { id, name, position, keeperId } = facts;
      return version ? [{ id, name, position, keeperId, definition: version.definition }] : [];
    }),
    ...{ history, why, viewerId: viewer.personId, now: clock.now(), running: clock.running }
  };
}

const named = ({ id, name }: { id: number; name: string }) => ({ id, name });

function historyRecord(
  { stores, source, clock }: Services,
  ruleId: number,
  told: RuleHistoryRecord['told']
): Pick<RuleBasis, 'history' | 'why'> {
  const now = clock.now();
  const waiting = stores.notices.waiting().filter((notice) => notice.ruleId === ruleId);
  const live = source.live(ruleId)?.facts;
  const rules = new Map(live ? [[ruleId, live]] : []);
  const history = historyOf(stores, source, source.planner, now, rules, waiting);
  const capped = [...source.facts.people.values()].filter(({ dailyCap, id }) => dailyCap !== null && id > 0);
  return {
    history: {
      told,
      ran: stores.tellings.ranOfRule(ruleId),
      waiting: [...(history.waiting ?? [])],
      runs: (history.runs ?? []).map(({ rule: _rule, ...run }) => ({
        ...run,
        definition: stores.rules.version(stores.rules.byId(ruleId)!.liveVersion!)!.definition
      })),
      toldLately: stores.tellings.allSince(now - HOUR_MS),
      sentToday: capped.map(({ id }) => [id, history.sentToday?.(id) ?? 0])
    },
    why: waiting.map(({ id, why }) => [id, why])
  };
}
