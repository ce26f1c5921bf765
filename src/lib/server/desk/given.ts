import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import type { DeskRow } from '../store/placements.ts';
import type { DeskServices } from './desk-of.ts';

/** Who or what gave somebody a task. */
export interface Giver {
  /** “Inês Moura”, “the rule “Permits, a month ahead””. */
  words: string;
  at: InstantMs;
  /** Null where that is nobody who is here. */
  to: PersonFacts | null;
}

/**
 * Who has a task when somebody gives it back: whoever leads it, where that is somebody else; else whoever gave it, the next of its owners, or
 * nobody.
 */
export function givenBackTo(
  app: DeskServices,
  row: Pick<DeskRow, 'id' | 'assignedAt'>,
  personId: number
): PersonFacts | null {
  const { tasks } = app.stores;
  const { people } = app.source.facts;
  const leads = tasks.byId(row.id)?.ownerId ?? null;
  if (leads !== null && leads !== personId) return people.get(leads) ?? null;
  const giver = giversOf(app, [row], personId).get(row.id)!.to;
  const [next] = tasks.otherOwnersOf(row.id).filter((id) => id !== personId);
  return giver ?? (next === undefined ? null : (people.get(next) ?? null));
}

/** By whom tasks were given to somebody. @param personId on whose Desk they stand */
export function giversOf(
  app: DeskServices,
  rows: readonly Pick<DeskRow, 'id' | 'assignedAt'>[],
  personId: number
): Map<number, Giver> {
  const given = app.stores.placements.givenTo(
    personId,
    rows.map(({ id }) => id)
  );
  const rules = new Map(app.stores.rules.all().map((rule) => [rule.id, rule]));
  const { people } = app.source.facts;
  const there = (id: number | null) => {
    const person = id === null || id === personId ? undefined : people.get(id);
    return person?.active ? person : null;
  };
  return new Map(
    rows.map(({ id, assignedAt }): [number, Giver] => {
      const by = given.get(id);
      if (!by) return [id, { words: 'it was yours before', at: assignedAt, to: null }];
      const rule = by.ruleId === null ? undefined : rules.get(by.ruleId);
      if (rule) return [id, { words: `from the rule “${rule.name}”`, at: by.at, to: there(rule.keeperId) }];
      if (by.source === 'renewal')
        return [id, { words: 'it was parked until now', at: by.at, to: there(by.actorId) }];
      const name = by.actorId === null ? null : (people.get(by.actorId)?.name ?? 'a removed person');
      const words =
        by.actorId === personId
          ? 'you made or took it'
          : name === null
            ? 'by Early Bell'
            : by.source === 'import'
              ? `from a file that ${name} imported`
              : `given by ${name}`;
      return [id, { words, at: by.at, to: there(by.actorId) }];
    })
  );
}
