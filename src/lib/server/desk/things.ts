import { CodedError } from '../../core/errors.ts';
import { may } from '../../core/access/deeds.ts';
import { formatDay, type Day } from '../../core/time/day.ts';
import { shortMoment } from '../../core/time/format.ts';
import type { PersonFacts } from '../../core/forecast/facts/facts.ts';
import type { DeskThingsView } from '../../view/desk.ts';
import type { Beginning } from '../task/quick-add/quick-add.ts';
import type { TaskListService } from '../task/task-list.ts';
import type { TaskService } from '../task/tasks.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';
import type { SignedIn } from '../workspace/signed-in.ts';
import type { DeskServices } from './desk-of.ts';
import type { HabitInput, ShelfInput } from './schema.ts';

/** How it begins for those who have said nothing. */
const AS_EVER = { private: false, mine: true, dueDays: null, dueUnit: 'day' } as const;

/** What people keep on their Desk besides tasks: lines, texts, counts, and how what they type begins. */
export class DeskThings {
  readonly #app: DeskServices;
  readonly #committer: Committer;
  readonly #tasks: TaskService;
  readonly #lists: TaskListService;

  constructor(
    app: DeskServices,
    committer: Committer,
    { tasks, taskLists }: { tasks: TaskService; taskLists: TaskListService }
  ) {
    this.#app = app;
    this.#committer = committer;
    this.#tasks = tasks;
    this.#lists = taskLists;
  }

  view({ person, zone, viewer, sight, may: mayDo }: SignedIn): DeskThingsView {
    const { deskThings, savedLists, people } = this.#app.stores;
    const today = zone.dayOf(this.#app.clock.now());
    const lists = new Map(savedLists.all().map((list) => [list.id, list]));
    const groups = people.groups();
    const pinned = deskThings.pinned(person.id);
    return {
      captures: deskThings
        .captures(person.id)
        .map(({ id, text, at }) => ({ id, text, at: shortMoment(at, zone, today) })),
      shelf: deskThings.shelf(person.id).map(({ id, personId, name, text }) => ({
        ...{ id, name, text },
        own: personId !== null,
        mayChange: personId !== null || mayDo('look after projects')
      })),
      tallies: pinned.flatMap((pin) => {
        const list = lists.get(pin.listId);
        if (!list) return [];
        const { name, query } = list;
        const group = groups.find(({ id }) => id === pin.groupId)?.name ?? null;
        const count = this.#lists.count(this.#lists.read(new URLSearchParams(query)), viewer, sight);
        return [
          { id: pin.id, name, query, count, group, mayDrop: group === null || mayDo('watch the whole team') }
        ];
      }),
      lists: savedLists
        .of(person.id)
        .filter(({ id }) => !pinned.some(({ listId }) => listId === id))
        .map(({ id, name }) => ({ id, name })),
      groups: mayDo('watch the whole team') ? groups.map(({ id, name }) => ({ id, name })) : [],
      mayShare: mayDo('look after projects'),
      habit: deskThings.habit(person.id) ?? AS_EVER
    };
  }

  /** Keeps a line. @throws CodedError `capture-empty` */
  keep(actor: Actor, text: string): Committed<number> {
    if (text === '') throw new CodedError('capture-empty');
    return this.#committer.commit(actor, 'A line kept', (writer) =>
      writer.insert('capture', { person_id: actor.personId, text, at: writer.head.at })
    );
  }

  /** @throws CodedError `capture-gone` */
  discard(actor: Actor, id: number): Committed<void> {
    this.#need(actor, id);
    return this.#committer.commit(
      actor,
      'A kept line discarded',
      (writer) => void writer.remove('capture', id)
    );
  }

  /** Makes a task of a line, which is gone then. @throws CodedError `capture-gone` */
  makeTask(actor: Actor, id: number): Committed<number> {
    const { text } = this.#need(actor, id);
    const input = beginning(this.#app, actor.personId!);
    return this.#committer.commit(actor, 'A kept line made a task', (writer) => {
      writer.remove('capture', id);
      return this.#tasks.insert(writer, {
        ...{ name: text, description: '', projectId: null, statusId: null, priority: 'ordinary' },
        ...{ dueTime: null, startDate: null, startTime: null },
        ...input
      });
    });
  }

  /** @throws CodedError `no-access`, `shelf-gone` */
  shelve(actor: Actor, { id, name, text, everybody }: ShelfInput): Committed<number> {
    const before = id === null ? null : this.#item(actor, id);
    if (everybody || before?.personId === null) this.#checkShares(actor);
    const row = { person_id: everybody ? null : actor.personId, name, text };
    return this.#committer.commit(
      actor,
      everybody ? `“${name}” put on the team’s shelf` : 'Shelf changed',
      (writer) => {
        if (before) writer.update('shelf_item', before.id, row);
        return before?.id ?? writer.insert('shelf_item', row);
      }
    );
  }

  /** @throws CodedError `no-access`, `shelf-gone` */
  unshelve(actor: Actor, id: number): Committed<void> {
    const item = this.#item(actor, id);
    if (item.personId === null) this.#checkShares(actor);
    return this.#committer.commit(actor, 'Shelf changed', (writer) => void writer.remove('shelf_item', id));
  }

  /** Counts a saved list on one's own Desk, or on those of a group. @throws CodedError `list-gone`, `no-access`, `group-gone` */
  pin(actor: Actor, listId: number, groupId: number | null): Committed<number> {
    const { savedLists, deskThings, people } = this.#app.stores;
    const list = savedLists.of(actor.personId!).find(({ id }) => id === listId);
    if (!list) throw new CodedError('list-gone');
    if (groupId !== null) {
      this.#checkShares(actor);
      // Others read its name and the words that it looks for.
      if (!list.shared) throw new CodedError('list-not-shared', { name: list.name });
      if (!people.groups().some(({ id }) => id === groupId)) throw new CodedError('group-gone');
    }
    const personId = groupId === null ? actor.personId : null;
    const known = deskThings
      .pinsOf(listId)
      .find((pin) => pin.personId === personId && pin.groupId === groupId);
    return this.#committer.commit(actor, `List “${list.name}” counted on the Desk`, (writer) => {
      return (
        known?.id ?? writer.insert('tally_pin', { list_id: listId, person_id: personId, group_id: groupId })
      );
    });
  }

  /** @throws CodedError `list-gone`, `no-access` */
  unpin(actor: Actor, id: number): Committed<void> {
    const pin = this.#app.stores.deskThings.pinned(actor.personId!).find((one) => one.id === id);
    if (!pin) throw new CodedError('list-gone');
    if (pin.groupId !== null) this.#checkShares(actor);
    return this.#committer.commit(
      actor,
      'A count removed from the Desk',
      (writer) => void writer.remove('tally_pin', id)
    );
  }

  /** How what somebody types begins. */
  setHabit(actor: Actor, { private: isPrivate, mine, dueDays, dueUnit }: HabitInput): Committed<void> {
    const known = this.#app.stores.deskThings.habit(actor.personId!);
    const row = { private: isPrivate ? 1 : 0, mine: mine ? 1 : 0, due_days: dueDays, due_unit: dueUnit };
    return this.#committer.commit(actor, 'How new tasks of mine begin', (writer) => {
      if (known) writer.update('desk_habit', known.id, row);
      else writer.insert('desk_habit', { person_id: actor.personId, ...row });
    });
  }

  #need(actor: Actor, id: number) {
    const capture = this.#app.stores.deskThings.capture(id);
    if (!capture || capture.personId !== actor.personId) throw new CodedError('capture-gone');
    return capture;
  }

  #item(actor: Actor, id: number) {
    const item = this.#app.stores.deskThings.shelfItem(id);
    if (!item || (item.personId !== null && item.personId !== actor.personId))
      throw new CodedError('shelf-gone');
    return item;
  }

  #checkShares({ personId }: Actor): void {
    const person = personId === null ? null : this.#app.stores.people.byId(personId);
    if (!person || !may(person.role, 'look after projects')) throw new CodedError('no-access');
  }
}

/** What a task that somebody types begins with, where they say nothing else. */
export function beginning({ stores, source, clock }: DeskServices, personId: number): Beginning {
  const person = source.facts.people.get(personId);
  const { mine, dueDays, dueUnit, private: isPrivate } = stores.deskThings.habit(personId) ?? AS_EVER;
  const due = person && dueDays !== null ? dayAfter(person, clock.now(), dueDays, dueUnit) : null;
  return {
    ownerId: mine ? personId : null,
    private: isPrivate && mine,
    dueDate: due === null ? null : formatDay(due)
  };
}

function dayAfter({ zone, calendar }: PersonFacts, now: number, n: number, unit: 'day' | 'workday'): Day {
  const today = zone.dayOf(now);
  return unit === 'day' ? today + n : calendar.days.offset(today, n);
}
