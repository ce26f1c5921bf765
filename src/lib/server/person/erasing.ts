import { CodedError } from '../../core/errors.ts';
import type { UnitOfWork } from '../db/unit-of-work.ts';
import type { Engine } from '../engine/engine.ts';
import type { FactsSource } from '../engine/facts-source.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { Stores } from '../store/all.ts';

/** What cannot be undone: taking a person out of everything that is kept, and clearing the demo's sample data. */
export class ErasingService {
  readonly #work: UnitOfWork;
  readonly #stores: Stores;
  readonly #source: FactsSource;
  readonly #engine: Engine;
  readonly #clock: WorkspaceClock;

  constructor(work: UnitOfWork, stores: Stores, source: FactsSource, engine: Engine, clock: WorkspaceClock) {
    this.#work = work;
    this.#stores = stores;
    this.#source = source;
    this.#engine = engine;
    this.#clock = clock;
  }

  /**
   * Takes a person's name and addresses out of everything; what they did stays, under a number. They must have been deactivated before.
   * @throws CodedError `person-gone` or `person-still-active`
   */
  erase(actorId: number, personId: number): void {
    const person = this.#stores.people.byId(personId);
    if (!person || person.erased) throw new CodedError('person-gone');
    if (person.active) throw new CodedError('person-still-active', { name: person.name });
    this.#work.run(() => {
      this.#stores.erasing.erase(person, `Erased person ${person.id}`);
      this.#stores.plan.enqueueAll();
      const at = this.#clock.now();
      this.#stores.journal.add(at, this.#clock.machine.now(), 'erased', { personId, actorId });
    });
    this.#source.invalidate();
    this.#engine.wake();
  }

  /**
   * Empties the workspace: what stays are its settings and statuses, the person who does it and their calendar. They become its
   * administrator.
   * @returns how many tasks, people and rules are gone
   */
  clearSample(personId: number): { tasks: number; people: number; rules: number } {
    const person = this.#stores.people.byId(personId);
    if (!person) throw new CodedError('person-gone');
    const settings = this.#stores.settings.workspace();
    const gone = {
      tasks: this.#stores.tasks.count(),
      people: this.#stores.people.all().length - 1,
      rules: this.#stores.rules.made().length
    };
    this.#work.run(() => {
      const calendars = [person.calendarId, ...(settings ? [settings.calendarId] : [])];
      this.#stores.erasing.clearAllBut(personId, calendars);
      const at = this.#clock.now();
      this.#stores.journal.add(at, this.#clock.machine.now(), 'sample data cleared', {
        actorId: personId,
        ...gone
      });
    });
    this.#source.invalidate();
    this.#engine.wake();
    return gone;
  }
}
