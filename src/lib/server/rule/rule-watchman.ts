import { ruleFaults } from '../../core/rule/check.ts';
import type { RuleDefinition } from '../../core/rule/model.ts';
import type { Known } from '../../core/rule/known.ts';
import type { KeeperReports } from '../engine/keeper-reports.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import { tablesMarked } from '../store/recorded-tables.ts';
import type { Stores } from '../store/all.ts';
import type { Rule } from '../store/rules.ts';
import type { Committer } from '../workspace/commit.ts';
import { knownTo } from './known-to.ts';

/** What rules name: where something of these is taken away, a rule may be faulty. */
const NAMED = tablesMarked('named by rules');

/** Looks after rules that are on: one that names something gone is faulty, does not ring, and its keeper is told. */
export class RuleWatchman {
  readonly #stores: Stores;
  readonly #keeper: KeeperReports;

  constructor(stores: Stores, keeper: KeeperReports) {
    this.#stores = stores;
    this.#keeper = keeper;
  }

  /** Called after every change, in its transaction. */
  review(writer: ChangeWriter, committer: Committer): void {
    const taken = writer.written.some(
      ({ table, kind, columns }) =>
        NAMED.has(table) && (kind === 'remove' || (table === 'person' && columns.includes('erased')))
    );
    if (!taken || writer.head.source === 'undo') return;
    const known = knownTo(this.#stores);
    for (const rule of this.#stores.rules.made()) {
      const version =
        rule.state === 'on' && rule.liveVersion !== null
          ? this.#stores.rules.version(rule.liveVersion)
          : null;
      const [fault] = version ? goneFrom(rule, version.definition, known) : [];
      if (!fault) continue;
      committer.change(
        {
          at: writer.head.at,
          actorId: null,
          source: 'set-up',
          title: `Rule “${rule.name}” is faulty`,
          ruleId: rule.id,
          causedBy: writer.id
        },
        (inner) => void inner.update('rule', rule.id, { state: 'faulty', fault })
      );
      this.#keeper.tell(
        rule,
        `“${rule.name}” has stopped`,
        [`The rule “${rule.name}” is faulty: ${fault}`, 'Correct it and turn it on again.'],
        null,
        writer.head.at
      );
    }
  }

  /** Rules that are on and would be faulty without something; with their names. */
  namedBy(gone: Partial<Known>): Rule[] {
    const known = { ...knownTo(this.#stores), ...gone };
    return this.#stores.rules.made().filter((rule) => {
      const version =
        rule.state === 'on' && rule.liveVersion !== null
          ? this.#stores.rules.version(rule.liveVersion)
          : null;
      return version !== null && goneFrom(rule, version.definition, known).length > 0;
    });
  }
}

function goneFrom(rule: Rule, definition: RuleDefinition, known: Known): string[] {
  return ruleFaults(rule.name, definition, known, rule.id)
    .filter(({ code }) => code === 'rule-names-gone')
    .map(({ message }) => message);
}
