import type { Facts, PersonFacts } from '../forecast/facts/facts.ts';
import type { DigestDefinition, DigestReader } from './model.ts';

/**
 * Everybody who reads a digest, each once, in the order in which they are named. Only people of the team who are active: others’ work is
 * no matter of outside people. What of a reader list hangs on a task stands for nobody here.
 */
export function digestReaders(
  { to }: Pick<DigestDefinition, 'to'>,
  facts: Facts,
  keeperId: number | null
): PersonFacts[] {
  const readers = new Set(to.flatMap((reader) => expand(reader, facts, keeperId)));
  return [...readers].filter(({ active, id }) => active && id > 0);
}

function expand(reader: DigestReader, facts: Facts, keeperId: number | null): PersonFacts[] {
  const everybody = () => [...facts.people.values()];
  const byIds = (ids: Iterable<number>) => [...ids].flatMap((id) => facts.people.get(id) ?? []);
  switch (reader.who) {
    case 'everybody':
      return everybody();
    case 'managers': {
      const managing = new Set(everybody().flatMap((one) => (one.active ? (one.managerId ?? []) : [])));
      return everybody().filter(({ id }) => managing.has(id));
    }
    case 'coordinator':
      return everybody().filter(({ coordinates }) => coordinates);
    case 'keeper':
      return keeperId === null ? [] : byIds([keeperId]);
    case 'person':
      return byIds([reader.id]);
    case 'group':
      return byIds(facts.groups.get(reader.id) ?? []);
    case 'readers':
      return (facts.readerLists.get(reader.id) ?? []).flatMap((one) =>
        one.who === 'person' || one.who === 'group'
          ? byIds(one.who === 'person' ? [one.id] : (facts.groups.get(one.id) ?? []))
          : one.who === 'coordinator' || one.who === 'keeper'
            ? expand({ who: one.who }, facts, keeperId)
            : []
      );
  }
}

/** Everybody who reports to somebody, at any depth. A circle of managers ends where it began; nobody reports to themselves. */
export function reportsOf(managerId: number, people: Facts['people']): PersonFacts[] {
  const found = new Map<number, PersonFacts>();
  let level: ReadonlySet<number> = new Set([managerId]);
  while (level.size > 0) {
    const next = new Set<number>();
    for (const person of people.values()) {
      const { id, managerId: above } = person;
      if (above === null || !level.has(above) || id === managerId || found.has(id)) continue;
      found.set(id, person);
      next.add(id);
    }
    level = next;
  }
  return [...found.values()];
}
