import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import type { InstantMs } from '../../core/time/zone.ts';
import type { DeskRow } from '../store/placements.ts';
import type { DeskServices } from './desk-of.ts';

/** Who or what gave somebody a task, and to whom it goes where it is given back. */
export interface Giver {
  /** “Inês Moura”, “the rule “Permits, a month ahead””. */
  words: string;
  at: InstantMs;
  /** Null where nobody is there to take it back. */
  to: PersonFacts | null;
}

/** By whom a task was given to whoever has it. @param personId on whose Desk it stands */
export function giverOf(app: DeskServices, row: Pick<DeskRow, 'id' | 'assignedAt'>, personId: number): Giver {
  return giversOf(app, [row], personId).get(row.id)!;
}

/** The same of several. */
export function giversOf(
  app: DeskServices,
  rows: readonly Pick<DeskRow, 'id' | 'assignedAt'>[],
  personId: number
): Map<number, Giver> {
  const given = app.stores.placements.givenBy(rows.map(({ id }) => id));
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
