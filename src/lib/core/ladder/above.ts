import type { Facts, PersonFacts } from '../forecast/facts/facts.ts';

type People = Pick<Facts, 'people'>;

/**
 * Everybody above somebody, the nearest first, each once and never themselves: who is deactivated is passed over, and a circle of managers
 * ends where it comes round.
 */
export function peopleAbove(person: PersonFacts, { people }: People): PersonFacts[] {
  const above: PersonFacts[] = [];
  const met = new Set([person.id]);
  for (let one = managerOf(person, people); one && !met.has(one.id); one = managerOf(one, people)) {
    met.add(one.id);
    if (one.active) above.push(one);
  }
  return above;
}

/**
 * Who hears of somebody's late work so many levels up: the next who is another person; where nobody stands there the coordinators, without
 * those who hear on a level below; nobody where there is none but the owner.
 */
export function toldAbove(person: PersonFacts, up: number, facts: People): PersonFacts[] {
  const above = peopleAbove(person, facts);
  const there = above[up - 1];
  if (there) return [there];
  return [...facts.people.values()].filter(
    (one) => one.coordinates && one.active && one.id !== person.id && !above.includes(one)
  );
}

/** Circles of managers, each once, by the names in their order; a person who is their own manager is a circle of one. */
export function managerCircles({ people }: People): string[][] {
  const circles: string[][] = [];
  const seen = new Set<number>();
  for (const person of people.values()) {
    const path: PersonFacts[] = [];
    let one: PersonFacts | null = person;
    while (one && !seen.has(one.id)) {
      seen.add(one.id);
      path.push(one);
      one = managerOf(one, people);
    }
    const from = one ? path.indexOf(one) : -1;
    if (from >= 0) circles.push(path.slice(from).map(({ name }) => name));
  }
  return circles;
}

function managerOf({ managerId }: PersonFacts, people: Facts['people']): PersonFacts | null {
  return managerId === null ? null : (people.get(managerId) ?? null);
}
