import { describe, expect, it } from 'vitest';
import { type PersonFacts } from '../forecast/facts/facts.ts';
import { managerCircles, peopleAbove, toldAbove } from './above.ts';
import { person } from './people.fixture.ts';

describe('who stands above', () => {
  const world = (people: PersonFacts[]) => ({ people: new Map(people.map((one) => [one.id, one])) });

  it('the next other person who is there, level by level', () => {
    const people = [
      person(1, { managerId: 2 }),
      person(2, { managerId: 3, active: false }),
      person(3, { managerId: 4 }),
      person(4, {}),
      person(5, { coordinates: true })
    ];
    const facts = world(people);
    expect(peopleAbove(people[0]!, facts).map(({ id }) => id)).toEqual([3, 4]);
    expect([1, 2, 3].map((up) => toldAbove(people[0]!, up, facts).map(({ id }) => id))).toEqual([
      [3],
      [4],
      [5]
    ]);
    expect(toldAbove(people[4]!, 1, facts)).toEqual([]);
    // Who has heard a level below does not hear again as a coordinator.
    const coordinating = world(people.map((one) => (one.id === 3 ? { ...one, coordinates: true } : one)));
    expect(toldAbove(people[0]!, 3, coordinating).map(({ id }) => id)).toEqual([5]);
  });

  it('a circle ends where it comes round, and is named', () => {
    const people = [
      person(1, { managerId: 2 }),
      person(2, { managerId: 3 }),
      person(3, { managerId: 2 }),
      person(4, { managerId: 4 })
    ];
    const facts = world(people);
    expect(peopleAbove(people[1]!, facts).map(({ id }) => id)).toEqual([3]);
    expect(peopleAbove(people[3]!, facts)).toEqual([]);
    expect(managerCircles(facts)).toEqual([['Person 2', 'Person 3'], ['Person 4']]);
  });
});
