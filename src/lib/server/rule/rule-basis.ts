import type { TaskFacts } from '../../core/forecast/facts/facts.ts';
import { packDetails, packTask } from '../../core/forecast/facts/packed.ts';
import { NO_DETAILS } from '../../core/task/details.ts';
import type { RuleHistoryRecord } from '../../core/forecast/simulate/rule-history.ts';
import { historyOf, runAhead } from '../engine/history.ts';
import { namedRecords } from '../engine/names.ts';
import type { RuleBasis } from '../../view/rule-basis.ts';
import type { Workspace } from '../workspace/workspace.ts';
import type { Stores } from '../store/all.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Above so many tasks, or so much told by the rule, the server computes instead of the browser. */
export const MOST_IN_BROWSER = 10_000;
const MOST_TOLD = 20_000;
const HOUR_MS = 3_600_000;

type Services = Pick<Workspace, 'stores' | 'source' | 'clock'>;

/** What the browser computes the outlook of a rule from; null where there is too much of it. */
export function ruleBasis(app: Services, ruleId: number, viewer: Viewer): RuleBasis | null {
  const { stores, source, clock } = app;
  if (stores.tasks.count() > MOST_IN_BROWSER) return null;
  const told = stores.tellings.ofRule(ruleId);
  if (told.length > MOST_TOLD) return null;
  const rule = stores.rules.byId(ruleId);
  const tasks = source.whole.tasks();
  const details = source.whole.details();
  // Nobody is sent what another person's private task says; no rule but its owner's looks at it.
  const isHidden = (task: TaskFacts) => task.private && task.ownerId !== viewer.personId;
  const { history, why } = historyRecord(app, ruleId, told);
  const mayKnow = listsKnownTo(stores, viewer);
  const facts = source.input();
  const named = namedRecords(stores);
  return {
    ...{ ruleId, position: rule?.position ?? 0, keeperId: rule?.keeperId ?? null },
    facts: { ...facts, lists: facts.lists.filter(([id]) => mayKnow.has(id)) },
    tasks: tasks.map((task) => packTask(isHidden(task) ? { ...task, name: '' } : task)),
    details: tasks.map((task) => [
      task.id,
      packDetails((isHidden(task) ? null : details.get(task.id)) ?? NO_DETAILS)
    ]),
    named: { ...named, lists: named.lists.filter(({ id }) => mayKnow.has(id)) },
    others: source.liveRules().flatMap(({ facts, versionId }) => {
      const version = facts.id === ruleId || facts.ofTask ? null : stores.rules.version(versionId);
      const { id, name, position, keeperId } = facts;
      return version ? [{ id, name, position, keeperId, definition: version.definition }] : [];
    }),
    ...{ history, why, viewerId: viewer.personId, now: clock.now(), running: clock.running }
  };
}

/** Lists that somebody has, and those that a rule names, whoever keeps them: what a rule looks at is no secret of those who make rules. */
function listsKnownTo({ savedLists, rules }: Stores, { personId }: Viewer): Set<number> {
  const ids = new Set(savedLists.of(personId ?? 0).map(({ id }) => id));
  for (const { draftVersion, liveVersion } of rules.made())
    for (const version of [draftVersion, liveVersion]) {
      const list = version === null ? null : rules.version(version)?.definition.watch.list;
      if (list) ids.add(list);
    }
  return ids;
}

function historyRecord(
  { stores, source, clock }: Services,
  ruleId: number,
  told: RuleHistoryRecord['told']
): Pick<RuleBasis, 'history' | 'why'> {
  const now = clock.now();
  const waiting = stores.notices.waiting().filter((notice) => notice.ruleId === ruleId);
  const live = source.live(ruleId)?.facts;
  const rules = new Map(live ? [[ruleId, live]] : []);
  const history = historyOf({ stores, source, planner: source.planner, now }, rules, waiting);
  const capped = [...source.facts.people.values()].filter(({ dailyCap, id }) => dailyCap !== null && id > 0);
  return {
    history: {
      told,
      ran: stores.tellings.ranOfRule(ruleId),
      waiting: [...(history.waiting ?? [])],
      runs: stores.runs.waiting().flatMap((run) => {
        // A run keeps the version of the rule that it started with.
        const ahead = run.ruleId === ruleId ? runAhead(run, source) : null;
        const version = ahead && stores.rules.version(run.versionId);
        if (!ahead || !version) return [];
        const { rule: _rule, ...rest } = ahead;
        return [{ ...rest, definition: version.definition }];
      }),
      toldLately: stores.tellings.allSince(now - HOUR_MS),
      sentToday: capped.map(({ id }) => [id, history.sentToday?.(id) ?? 0]),
      once: stores.runs.onceOfRule(ruleId),
      followUps: stores.runs.followUpsOfRule(ruleId)
    },
    why: waiting.map(({ id, why }) => [id, why])
  };
}
