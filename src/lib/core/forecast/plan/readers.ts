import type { Leave } from '../../calendar/leave.ts';
import type { WorkingSpans } from '../../calendar/working-spans.ts';
import { ANY_TIME, type Reach } from '../../ring/hold.ts';
import type { Reader } from '../../ring/reader.ts';
import type { ReachChoice } from '../../rule/step-model.ts';
import type { InstantMs, Zone } from '../../time/zone.ts';
import { isReachable, type Facts, type PersonFacts } from '../facts/facts.ts';

/** Everybody as steps 5 and 6 know them, for each reach that a rule may ask for. */
export class Readers {
  readonly #facts: Facts;
  readonly #made = new Map<ReachChoice, Map<PersonFacts, PersonReader>>();
  #last: PersonReader | null = null;

  constructor(facts: Facts) {
    this.#facts = facts;
  }

  of(person: PersonFacts, choice: ReachChoice): PersonReader {
    // Rule after rule tells the same person of a task, so the last one asked for is the likeliest.
    if (this.#last?.person === person && this.#last.choice === choice) return this.#last;
    let made = this.#made.get(choice);
    if (!made) this.#made.set(choice, (made = new Map()));
    let reader = made.get(person);
    if (!reader) made.set(person, (reader = new PersonReader(this, person, choice)));
    return (this.#last = reader);
  }

  /** The reader of a person who can be told; null for somebody deactivated, without an address, or gone. */
  reachable(id: number | null, choice: ReachChoice): PersonReader | null {
    const person = id === null ? undefined : this.#facts.people.get(id);
    return person && isReachable(person) ? this.of(person, choice) : null;
  }
}

/** A person with the reach that a rule asks for. A stand-in's reach is the stand-in's. */
export class PersonReader implements Reader {
  readonly person: PersonFacts;
  readonly choice: ReachChoice;
  readonly reach: Reach;
  readonly #all: Readers;

  constructor(all: Readers, person: PersonFacts, choice: ReachChoice) {
    this.#all = all;
    this.person = person;
    this.choice = choice;
    this.reach = reachOf(person, choice);
  }

  get name(): string {
    return this.person.name;
  }

  get zone(): Zone {
    return this.person.zone;
  }

  get base(): WorkingSpans {
    return this.person.calendar.spans;
  }

  get leave(): Leave {
    return this.person.leave;
  }

  get manager(): Reader | null {
    return this.#all.reachable(this.person.managerId, this.choice);
  }

  standInAt(at: InstantMs): Reader | null {
    const standIn = this.person.standIns.find(({ from, until }) => from <= at && at < until);
    return standIn ? this.#all.reachable(standIn.personId, this.choice) : null;
  }
}

function reachOf({ calendar, quiet, zone }: PersonFacts, choice: ReachChoice): Reach {
  if (choice === 'working hours') return { kind: 'working', spans: calendar.spans };
  return choice === 'any time' || quiet.length === 0 ? ANY_TIME : { kind: 'quiet', zone, quiet };
}
