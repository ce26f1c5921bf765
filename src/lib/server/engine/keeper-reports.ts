import { recordNames } from './names.ts';
import { sentenceText, wholeSentence } from '../../core/rule/words/sentence.ts';
import { isReachable } from '../../core/forecast/facts/facts.ts';
import type { Stores } from '../store/all.ts';
import type { WorkspaceClock } from './clock.ts';
import type { FactsSource } from './facts-source.ts';
import { queuePlain } from './plain-message.ts';

/** Tells the keeper of a rule what went wrong with it, and writes it into the journal. Inside the transaction under way. */
export class KeeperReports {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #clock: WorkspaceClock;
  readonly #linkOf: (ruleId: number) => string;

  constructor(
    stores: Stores,
    source: FactsSource,
    clock: WorkspaceClock,
    linkOf: (ruleId: number) => string
  ) {
    this.#stores = stores;
    this.#source = source;
    this.#clock = clock;
    this.#linkOf = linkOf;
  }

  tell(
    rule: { id: number; name: string; keeperId: number | null },
    subject: string,
    paragraphs: readonly string[],
    taskId: number | null,
    now: number
  ): void {
    const { journal, outbox, settings } = this.#stores;
    journal.add(now, this.#clock.machine.now(), 'rule fault', {
      ruleId: rule.id,
      taskId,
      message: paragraphs[0] ?? subject
    });
    const keeper = rule.keeperId === null ? undefined : this.#source.facts.people.get(rule.keeperId);
    if (!keeper || !isReachable(keeper)) return;
    const link = this.#linkOf(rule.id);
    const about = { of: 'keeper', key: [rule.id, taskId, now, subject] };
    const message = {
      subject,
      paragraphs: [...paragraphs, ...this.#says(rule.id)],
      link,
      words: 'Open the rule'
    };
    queuePlain({ outbox, settings }, { reader: keeper, kind: 'rule fault', now }, about, message);
  }

  /** Everything that the live version says, so that its keeper sees what no longer happens. */
  #says(ruleId: number): string[] {
    const { rules } = this.#stores;
    const live = rules.byId(ruleId)?.liveVersion ?? null;
    const version = live === null ? null : rules.version(live);
    if (version === null) return [];
    const parts = wholeSentence(version.definition, recordNames(this.#stores));
    return [`What the rule says: ${sentenceText(parts)}.`];
  }
}
