import { many } from '../../core/many.ts';
import { groupBy } from '../../core/group-by.ts';
import type { Stores } from '../store/all.ts';
import type { FactsSource } from './facts-source.ts';
import type { KeeperReports } from './keeper-reports.ts';
import type { Departure } from './leaving.ts';

/** So many messages of one rule at one instant are looked at. */
const MANY = 50;
/** How far beyond what was foreseen for the day is too far. */
const FACTOR = 3;

/** What was foreseen of a day: messages of each rule, counted at its midnight, or when a rule was turned on. */
interface Foreseen {
  /** Date in the workspace's zone. */
  day: number;
  byRule: Record<number, number>;
}

/** Counts the messages of each rule from now to an instant, as the forecast has them. */
export type Foresee = (until: number) => ReadonlyMap<number, number>;

/** Stops a rule that is about to send far more than was foreseen, before it sends, and asks its keeper. */
export class RushCheck {
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #keeper: KeeperReports;
  #foresee: Foresee = () => new Map();

  constructor(stores: Stores, source: FactsSource, keeper: KeeperReports) {
    this.#stores = stores;
    this.#source = source;
    this.#keeper = keeper;
  }

  attach(foresee: Foresee): void {
    this.#foresee = foresee;
  }

  /** When the day of an instant begins, in the workspace's zone. */
  midnightBefore(at: number): number {
    const { zone } = this.#source.facts.workspace;
    return zone.startOfDay(zone.dayOf(at));
  }

  /** Foresees the day when it has just begun, and what rules that were turned on since will send of it. */
  sync(now: number): void {
    const { zone } = this.#source.facts.workspace;
    const day = zone.dayOf(now);
    const kept = this.#stores.engineState.read<Foreseen>('foreseen');
    const live = this.#source.liveRules();
    if (kept?.day === day && live.every(({ facts }) => facts.id in kept.byRule)) return;
    const counts = this.#foresee(zone.endOfDay(day));
    const byRule: Record<number, number> = kept?.day === day ? { ...kept.byRule } : {};
    for (const { facts } of live) byRule[facts.id] ??= counts.get(facts.id) ?? 0;
    this.#stores.engineState.write('foreseen', { day, byRule });
  }

  /** A rule was turned on or changed: what it will send of the day is foreseen anew. */
  forget(ruleId: number): void {
    const kept = this.#stores.engineState.read<Foreseen>('foreseen');
    if (!kept) return;
    delete kept.byRule[ruleId];
    this.#stores.engineState.write('foreseen', kept);
  }

  /** The keeper has said that it may: no more is asked of this rule on this day. */
  allow(ruleId: number): void {
    const kept = this.#stores.engineState.read<Foreseen>('foreseen');
    if (kept)
      this.#stores.engineState.write('foreseen', { ...kept, byRule: { ...kept.byRule, [ruleId]: 1e9 } });
  }

  /** @returns the messages that may leave; those of a rule that rushes are kept back */
  admit(departures: Departure[], now: number): Departure[] {
    const byRule = groupBy(departures, ({ notices }) => notices[0]!.ruleId);
    const stopped = new Set<number>();
    const foreseen = this.#stores.engineState.read<Foreseen>('foreseen');
    for (const [ruleId, own] of byRule) {
      const expected = foreseen?.byRule[ruleId] ?? 0;
      if (own.length <= MANY || own.length <= FACTOR * expected) continue;
      stopped.add(ruleId);
      this.#stop(ruleId, own, expected, now);
    }
    return stopped.size === 0
      ? departures
      : departures.filter(({ notices }) => !stopped.has(notices[0]!.ruleId));
  }

  #stop(ruleId: number, departures: readonly Departure[], expected: number, now: number): void {
    const ids = departures.flatMap(({ notices }) => notices.map(({ id }) => id));
    this.#stores.rushes.stop(ruleId, now, departures.length, expected, ids);
    const rule = this.#stores.rules.byId(ruleId);
    if (!rule) return;
    this.#keeper.tell(
      rule,
      `“${rule.name}” was about to send ${departures.length} messages`,
      [
        `The rule “${rule.name}” was about to send ${many(departures.length, 'message')} at once. The forecast for the day was ${expected}. Nothing was sent.`,
        'Decide on the Bell tower: send, combine, or do not send.'
      ],
      null,
      now
    );
  }
}
