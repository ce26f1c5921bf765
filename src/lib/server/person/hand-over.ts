import { CodedError } from '../../core/errors.ts';
import { formatDay } from '../../core/time/day.ts';
import { zoneNamed } from '../../core/time/zone.ts';
import type { WorkspaceClock } from '../engine/clock.ts';
import type { EffectView } from '../../view/effects.ts';
import type { HandOverInput } from './hand-over-schema.ts';
import type { Stores } from '../store/all.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { PlaceBeside } from '../store/held-by.ts';
import type { Question } from '../store/questions.ts';
import type { Person } from '../store/people.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { PeopleService } from './people.ts';
import type { EffectService } from '../effect/effects.ts';
import type { TaskService } from '../task/tasks.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** What hangs on somebody, counted. */
export interface HeldBy {
  tasks: number;
  /** Their own private ones: these stay theirs. */
  privateTasks: number;
  besides: number;
  projects: number;
  rules: string[];
  digests: string[];
  sweeps: string[];
  readerLists: string[];
  groups: string[];
  reports: string[];
  standsInFor: string[];
  /** Of rules and sweeps, that wait for their answer. */
  questions: number;
}

/** Handing over what hangs on somebody who leaves: one act, which can be looked at before and taken back. */
export class HandOverService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #clock: WorkspaceClock;
  readonly #tasks: TaskService;
  readonly #people: PeopleService;
  readonly #effects: EffectService;

  constructor(
    stores: Stores,
    committer: Committer,
    clock: WorkspaceClock,
    tasks: TaskService,
    people: PeopleService,
    effects: EffectService
  ) {
    this.#stores = stores;
    this.#committer = committer;
    this.#clock = clock;
    this.#tasks = tasks;
    this.#people = people;
    this.#effects = effects;
  }

  /** Whoever leaves, with what hangs on them. @throws CodedError `person-gone` */
  view(personId: number) {
    const { id, name, managerId, active } = this.#need(personId);
    return { held: this.heldBy(id), person: { id, name, managerId, active } };
  }

  /** @throws CodedError `person-gone` */
  heldBy(personId: number): HeldBy {
    const person = this.#need(personId);
    const { heldBy, rules, digests, sweeps, readers, people, sweepQuestions } = this.#stores;
    const tasks = heldBy.tasks(personId);
    const kept = (all: readonly { name: string; keeperId: number | null }[]) =>
      all.filter(({ keeperId }) => keeperId === personId).map(({ name }) => name);
    const nameOf = (id: number) => people.byId(id)?.name ?? '';
    return {
      tasks: tasks.filter((task) => !task.private).length,
      privateTasks: tasks.filter((task) => task.private).length,
      besides: heldBy.ownedBesides(personId).length,
      projects: heldBy.memberOf(personId).length,
      rules: kept(rules.made()),
      digests: kept(digests.all()),
      sweeps: kept(sweeps.all()),
      readerLists: readers
        .lists()
        .filter((list) => names(list, personId))
        .map(({ name }) => name),
      groups: person.groups,
      reports: this.#reportsOf(personId).map(({ name }) => name),
      standsInFor: this.#standsIn(person).map((leave) => nameOf(leave.personId)),
      questions: this.#questionsFor(personId).length + sweepQuestions.openFor(personId).length
    };
  }

  /** The tasks that an act would give to somebody else. */
  #taskIds(personId: number): number[] {
    const { heldBy } = this.#stores;
    const own = heldBy.tasks(personId).filter((task) => !task.private);
    return [...new Set([...own.map(({ id }) => id), ...heldBy.ownedBesides(personId).map((one) => one.of)])];
  }

  /** What an act would do, tried out and taken back. @throws CodedError as `apply` */
  preview(actor: Actor, personId: number, input: HandOverInput, viewer: Viewer): EffectView {
    const act = () => void this.apply(actor, personId, input);
    return this.#effects.ofAct(this.#taskIds(personId), act, viewer);
  }

  /**
   * The same, if it would still do what was said.
   * @param stamp of what was said; null where nobody had looked
   * @throws CodedError `preview-stale`, or as `apply`
   */
  applyLookedAt(
    actor: Actor,
    personId: number,
    input: HandOverInput,
    viewer: Viewer,
    stamp: string | null
  ): Committed<void> {
    const act = () => void this.apply(actor, personId, input);
    this.#effects.check(stamp, this.#taskIds(personId), act, viewer);
    return this.apply(actor, personId, input);
  }

  /**
   * Hands over what is named, and deactivates them if that is wished.
   * @throws CodedError `person-gone`, `hand-over-nothing`, `hand-over-self`, `person-deactivated` or `last-administrator`
   */
  apply(actor: Actor, personId: number, input: HandOverInput): Committed<void> {
    const person = this.#need(personId);
    const { work, keeping, people, deactivate } = input;
    if (work === null && keeping === null && people === null) throw new CodedError('hand-over-nothing');
    for (const [field, id] of Object.entries({ work, keeping, people })) this.#checkHeir(personId, id, field);
    if (deactivate) this.#people.checkDeactivate(personId);
    return this.#committer.commit(actor, `Work of ${person.name} handed over`, (writer) => {
      if (work !== null) this.#handWork(writer, personId, work);
      if (keeping !== null) this.#handKeeping(writer, personId, keeping);
      if (people !== null) this.#handPeople(writer, person, people);
      if (deactivate) writer.update('person', personId, { active: 0 });
    });
  }

  #handWork(writer: ChangeWriter, from: number, to: number): void {
    const { heldBy, tasks } = this.#stores;
    for (const { id, private: isPrivate } of heldBy.tasks(from)) {
      const task = isPrivate ? null : tasks.byId(id);
      if (!task) continue;
      // Nobody owns a task twice.
      const others = tasks.otherOwnersOf(id);
      const rest = others.includes(to) ? { otherOwnerIds: others.filter((one) => one !== to) } : {};
      this.#tasks.update(writer, task, { ownerId: to, ...rest });
    }
    // What a sweep has asked is asked no more of a task that somebody takes over; what a rule has asked waits for them.
    for (const { id } of this.#questionsFor(from)) this.#stores.questions.pass(id, to, writer.id);
    this.#movePlaces(writer, 'co_owner', heldBy.ownedBesides(from), to, (taskId) =>
      [tasks.byId(taskId)?.ownerId, ...tasks.otherOwnersOf(taskId)].includes(to)
    );
    const theirs = new Set(heldBy.memberOf(to).map((one) => one.of));
    this.#movePlaces(writer, 'project_member', heldBy.memberOf(from), to, (id) => theirs.has(id));
  }

  /** Nobody has two places in one thing: whoever has one already keeps it. */
  #movePlaces(
    writer: ChangeWriter,
    table: 'co_owner' | 'project_member',
    places: readonly PlaceBeside[],
    to: number,
    has: (of: number) => boolean
  ): void {
    for (const { id, of } of places) {
      if (has(of)) writer.remove(table, id);
      else writer.update(table, id, { person_id: to });
    }
  }

  #handKeeping(writer: ChangeWriter, from: number, to: number): void {
    const { rules, digests, sweeps, readers, people } = this.#stores;
    for (const [table, all] of [
      ['rule', rules.made()],
      ['digest', digests.all()],
      ['sweep', sweeps.all()]
    ] as const)
      for (const { id, keeperId } of all) if (keeperId === from) writer.update(table, id, { keeper_id: to });
    for (const list of readers.lists()) {
      if (!names(list, from)) continue;
      const moved = list.recipients.map((one) =>
        one.who === 'person' && one.id === from ? { ...one, id: to } : one
      );
      const seen = new Set<string>();
      const once = moved.filter((one) => !seen.has(JSON.stringify(one)) && seen.add(JSON.stringify(one)));
      writer.update('reader_list', list.id, { recipients: JSON.stringify(once) });
    }
    const theirs = new Set(people.memberships(to).map(({ groupId }) => groupId));
    for (const { id, groupId } of people.memberships(from)) {
      if (theirs.has(groupId)) writer.remove('group_member', id);
      else writer.update('group_member', id, { person_id: to });
    }
  }

  /** Nobody becomes their own manager, or stands in for themselves. */
  #handPeople(writer: ChangeWriter, from: Person, to: number): void {
    for (const { id } of this.#reportsOf(from.id))
      writer.update('person', id, { manager_id: id === to ? from.managerId : to });
    for (const { id, personId } of this.#standsIn(from))
      writer.update('leave', id, { stand_in_id: personId === to ? null : to });
  }

  /** What rules ask somebody, their own private tasks apart. */
  #questionsFor(personId: number): Question[] {
    return this.#stores.questions
      .openFor(personId)
      .filter(({ taskId }) => this.#stores.tasks.byId(taskId)?.private === false);
  }

  #reportsOf(personId: number): Person[] {
    return this.#stores.people.all().filter(({ managerId, active }) => active && managerId === personId);
  }

  #standsIn({ id, zone }: Person): { id: number; personId: number }[] {
    return this.#stores.heldBy.standsIn(id, formatDay(zoneNamed(zone).dayOf(this.#clock.now())));
  }

  #checkHeir(personId: number, heirId: number | null, field: string): void {
    if (heirId === null) return;
    const heir = this.#stores.people.byId(heirId);
    if (!heir) throw new CodedError('person-gone', {}, field);
    if (heirId === personId) throw new CodedError('hand-over-self', { name: heir.name }, field);
    if (!heir.active) throw new CodedError('person-deactivated', { name: heir.name }, field);
  }

  #need(id: number): Person {
    const person = this.#stores.people.byId(id);
    if (!person || person.erased) throw new CodedError('person-gone');
    return person;
  }
}

function names({ recipients }: { recipients: readonly { who: string }[] }, personId: number): boolean {
  return recipients.some((one) => one.who === 'person' && (one as { id?: number }).id === personId);
}
