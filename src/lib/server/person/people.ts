import { leaveSpans } from '../../core/calendar/leave.ts';
import type { Role } from '../../core/access/deeds.ts';
import { CodedError } from '../../core/errors.ts';
import type { ChannelsInput, LeaveInput, MoveInput, PersonInput, QuietInput } from './schema.ts';
import type { Row } from '../db/row.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { LeaveRecord, Person } from '../store/people.ts';
import type { Stores } from '../store/all.ts';
import { zoneOfPerson } from '../../core/forecast/facts/compile-facts.ts';
import type { AccountGuard } from '../account/account-guard.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** Managers one above the other: more than any team has, and few enough to be gone through for each of its people. */
export const MOST_ABOVE = 100;

/** What is done with people. */
export class PeopleService {
  readonly #stores: Stores;
  readonly #committer: Committer;
  readonly #guard: AccountGuard;

  constructor(stores: Stores, committer: Committer, guard: AccountGuard) {
    this.#stores = stores;
    this.#committer = committer;
    this.#guard = guard;
  }

  /** @throws CodedError `email-taken` */
  add(actor: Actor, input: PersonInput): Committed<number> {
    this.#check(null, input);
    return this.#committer.commit(actor, `${input.name} added`, (writer) => this.insert(writer, input));
  }

  /** Adds a person inside a change that is under way. */
  insert(writer: ChangeWriter, input: PersonInput): number {
    const id = writer.insert('person', columns(input));
    this.#writeGroups(writer, id, input.groups);
    return id;
  }

  /** @throws CodedError `person-gone` */
  roleOf(id: number): Role {
    return this.#need(id).role;
  }

  /**
   * @throws CodedError `person-gone`, `email-taken`, `person-own-manager`, `person-manager-circle`, `last-administrator` or
   *   `account-guarded`
   */
  edit(actor: Actor, id: number, input: PersonInput): Committed<void> {
    this.#check(id, input);
    if (input.email !== this.#need(id).email) this.#guard.check(actor.personId, id, 'email');
    return this.#committer.commit(actor, `${input.name} changed`, (writer) => this.update(writer, id, input));
  }

  /** Writes what differs inside a change that is under way. */
  update(writer: ChangeWriter, id: number, input: PersonInput): void {
    writer.update('person', id, columns(input));
    this.#writeGroups(writer, id, input.groups);
  }

  /** What everybody may change of themselves. @throws CodedError `person-gone` */
  editOwn(actor: Actor, id: number, own: { phone: string | null; zone: string }): Committed<void> {
    const person = this.#need(id);
    return this.#committer.commit(actor, `${person.name} changed`, (writer) => {
      writer.update('person', id, { phone: own.phone, zone: own.zone });
    });
  }

  /** From a date on they are in another zone; a move on the same date is replaced. @throws CodedError `person-gone` */
  move(actor: Actor, id: number, { from, zone }: MoveInput): Committed<void> {
    const person = this.#need(id);
    return this.#committer.commit(actor, `${person.name} moves to another place from ${from}`, (writer) => {
      const same = this.#stores.people.movesOf(id).find((move) => move.from === from);
      if (same) writer.update('person_zone', same.id, { zone });
      else writer.insert('person_zone', { person_id: id, from_date: from, zone });
    });
  }

  dropMove(actor: Actor, id: number, from: string): Committed<void> {
    const person = this.#need(id);
    return this.#committer.commit(actor, `${person.name} no longer moves on ${from}`, (writer) => {
      const same = this.#stores.people.movesOf(id).find((move) => move.from === from);
      if (same) writer.remove('person_zone', same.id);
    });
  }

  /**
   * Leave, both dates included; with a time it begins or ends within its day.
   * @throws CodedError `person-gone`, `leave-order`, `leave-overlap` or `own-stand-in`
   */
  addLeave(actor: Actor, id: number, input: LeaveInput): Committed<void> {
    const person = this.#need(id);
    this.checkLeave(id, input);
    return this.#committer.commit(actor, `${person.name} on leave from ${input.fromDate}`, (writer) =>
      this.insertLeave(writer, id, input)
    );
  }

  /** Whether leave could be entered. @throws CodedError as `addLeave` */
  checkLeave(id: number, input: LeaveInput): void {
    this.#leaveEntry(id, input);
  }

  /** The same inside a change that is being made. @throws CodedError as `addLeave` */
  insertLeave(writer: ChangeWriter, id: number, input: LeaveInput): void {
    const entry = this.#leaveEntry(id, input);
    writer.insert('leave', {
      person_id: id,
      from_at: entry.from,
      until_at: entry.until,
      stand_in_id: entry.standInId,
      note: entry.note
    });
  }

  dropLeave(actor: Actor, id: number, leaveId: number): Committed<void> {
    const person = this.#need(id);
    const leave = this.#stores.people.leaveById(leaveId);
    if (leave?.personId !== id) throw new CodedError('leave-gone');
    return this.#committer.commit(actor, `Leave of ${person.name} removed`, (writer) => {
      writer.remove('leave', leaveId);
    });
  }

  /**
   * What should be known before leave is saved: a group, or the people of a manager, of whom nobody would be there, and a stand-in who is
   * away too.
   */
  leaveWarnings(id: number, input: LeaveInput): string[] {
    const person = this.#need(id);
    const people = this.#stores.people.all().filter(({ active }) => active);
    const all = this.#stores.people.leave();
    const entry = this.#leaveEntry(id, input);
    const [from, until] = leaveSpans([{ from: entry.from, to: entry.until }], zoneOfPerson(person))[0]!;
    const spansOf = (other: Person) =>
      leaveSpans(
        all.filter(({ personId }) => personId === other.id).map((one) => ({ from: one.from, to: one.until })),
        zoneOfPerson(other)
      );
    const own = [[from, until]] as const;
    const warnings: string[] = [];
    const teams = [
      ...person.groups.map((name) => ({
        name,
        members: people.filter(({ groups }) => groups.includes(name))
      })),
      ...people
        .filter(({ id: manager }) => manager === person.managerId)
        .map((manager) => ({
          name: `${manager.name}’s people`,
          members: people.filter(({ managerId }) => managerId === manager.id)
        }))
    ];
    for (const { name, members } of teams)
      if (
        members.length > 1 &&
        members
          .filter((member) => member.id !== id)
          .reduce<readonly (readonly [number, number])[]>(
            (left, member) => inBoth(left, spansOf(member)),
            own
          ).length > 0
      )
        warnings.push(`Everybody in ${name} would be on leave.`);
    const standIn = people.find(({ id: other }) => other === entry.standInId);
    if (standIn && inBoth(own, spansOf(standIn)).length > 0)
      warnings.push(`${standIn.name} is on leave too. Notices go to the manager.`);
    const cannotHear = standIn && standIn.email === null && standIn.phone === null && standIn.chat === null;
    if (cannotHear) warnings.push(`${standIn.name} has no mail address. Notices go to the manager.`);
    return warnings;
  }

  /** Quiet hours, the most messages for a day, and the hours at which what is more leaves. */
  setQuiet(
    actor: Actor,
    id: number,
    { quiet, dailyCap, digestDue, digestOverdue }: QuietInput
  ): Committed<void> {
    const person = this.#need(id);
    return this.#committer.commit(actor, `Quiet hours and limits of ${person.name} changed`, (writer) => {
      writer.update('person', id, {
        quiet: JSON.stringify(quiet),
        daily_cap: dailyCap,
        digest_due: digestDue,
        digest_overdue: digestOverdue
      });
    });
  }

  /** By which channels they want to hear of what, and how the chat knows them. @throws CodedError `person-gone` */
  setChannels(actor: Actor, id: number, { chat, channels }: ChannelsInput): Committed<void> {
    const person = this.#need(id);
    return this.#committer.commit(actor, `Channels of ${person.name} changed`, (writer) => {
      writer.update('person', id, { chat, channels: JSON.stringify(channels) });
    });
  }

  /** Whether somebody can be deactivated. @throws CodedError `person-gone` or `last-administrator` */
  checkDeactivate(id: number): void {
    if (this.#need(id).role === 'administrator') this.#needOtherAdministrator(id);
  }

  /** They are told nothing any more and cannot sign in. @throws CodedError `person-gone` or `last-administrator` */
  deactivate(actor: Actor, id: number): Committed<void> {
    const person = this.#need(id);
    this.checkDeactivate(id);
    return this.#committer.commit(actor, `${person.name} deactivated`, (writer) => {
      writer.update('person', id, { active: 0 });
    });
  }

  activate(actor: Actor, id: number): Committed<void> {
    const person = this.#need(id);
    if (person.erased) throw new CodedError('person-erased');
    return this.#committer.commit(actor, `${person.name} is active again`, (writer) => {
      writer.update('person', id, { active: 1 });
    });
  }

  /** Everything that keeps a person from being saved. */
  #check(id: number | null, { email, managerId, name, role }: PersonInput): void {
    const person = id === null ? null : this.#need(id);
    const other = email === null ? null : this.#stores.people.byEmail(email);
    if (other && other.id !== id)
      throw new CodedError('email-taken', { value: email!, name: other.name }, 'email');
    if (person?.role === 'administrator' && role !== 'administrator') this.#needOtherAdministrator(person.id);
    if (managerId === null) return;
    if (managerId === id) throw new CodedError('person-own-manager', {}, 'managerId');
    const above: Person[] = [];
    for (
      let next = this.#stores.people.byId(managerId);
      next;
      next = next.managerId === null ? null : this.#stores.people.byId(next.managerId)
    ) {
      if (next.id === id) {
        const names = [name, ...above.map((one) => one.name), name].join(' → ');
        throw new CodedError('person-manager-circle', { names }, 'managerId');
      }
      if (above.some((one) => one.id === next.id)) return;
      above.push(next);
      if (above.length > MOST_ABOVE)
        throw new CodedError('person-too-many-above', { most: MOST_ABOVE }, 'managerId');
    }
  }

  #needOtherAdministrator(id: number): void {
    if (this.#stores.people.otherAdministrators(id) === 0)
      throw new CodedError('last-administrator', {}, 'role');
  }

  /** The leave as it is kept, once it fits to what is there. */
  #leaveEntry(id: number, input: LeaveInput): Omit<LeaveRecord, 'id'> {
    if (input.standInId === id) throw new CodedError('own-stand-in', {}, 'standInId');
    if (input.standInId !== null) this.#need(input.standInId);
    const at = (date: string, time: string | null) => (time === null ? date : `${date}T${time}`);
    const from = at(input.fromDate, input.fromTime);
    const until = at(input.untilDate, input.untilTime);
    const zone = zoneOfPerson(this.#need(id));
    const spanOf = (one: { from: string; until: string }) =>
      leaveSpans([{ from: one.from, to: one.until }], zone);
    let own;
    try {
      own = spanOf({ from, until });
    } catch (error) {
      if (error instanceof CodedError) throw error.at('untilDate');
      throw error;
    }
    const other = this.#stores.people.leaveOf(id).find((one) => inBoth(own, spanOf(one)).length > 0);
    if (other) throw new CodedError('leave-overlap', { from: other.from, to: other.until }, 'fromDate');
    return { personId: id, from, until, standInId: input.standInId, note: input.note };
  }

  /** Groups are known by name; one that is not there yet is made, one that nobody is in any more goes. */
  #writeGroups(writer: ChangeWriter, personId: number, wanted: readonly string[]): void {
    const key = (name: string) => name.trim().toLowerCase();
    const groups = this.#stores.people.groups();
    const ids = new Set(
      wanted.map(
        (name) =>
          groups.find((group) => key(group.name) === key(name))?.id ?? writer.insert('team_group', { name })
      )
    );
    const before = this.#stores.people.memberships(personId);
    for (const { id, groupId } of before) {
      if (ids.has(groupId)) continue;
      writer.remove('group_member', id);
      if (groups.find((group) => group.id === groupId)?.members === 1) writer.remove('team_group', groupId);
    }
    for (const id of ids)
      if (!before.some(({ groupId }) => groupId === id))
        writer.insert('group_member', { group_id: id, person_id: personId });
  }

  #need(id: number): Person {
    const person = this.#stores.people.byId(id);
    if (!person) throw new CodedError('person-gone');
    return person;
  }
}

function columns({ name, email, phone, zone, calendarId, managerId, role }: PersonInput): Row {
  return { name, email, phone, zone, calendar_id: calendarId, manager_id: managerId, role };
}

/** The stretches that lie in one of each list. */
function inBoth(
  some: readonly (readonly [number, number])[],
  others: readonly (readonly [number, number])[]
): (readonly [number, number])[] {
  return some
    .flatMap(([from, until]) =>
      others.map((other) => [Math.max(from, other[0]), Math.min(until, other[1])] as const)
    )
    .filter(([from, until]) => from < until);
}
