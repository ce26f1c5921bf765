import { toldAbove } from '../../ladder/above.ts';
import type { Recipient } from '../../rule/step-model.ts';
import type { CompiledTell } from '../../rule/program.ts';
import type { Facts, PersonFacts, TaskFacts } from './facts.ts';

/** Of what a recipient is looked up: the rule's keeper, who acted, the lead that rings. */
export interface TellContext {
  keeperId: number | null;
  actorId: number | null;
  leadId: string | null;
}

/** One who is told, and how: a copy carries no links to act by. */
export interface Told {
  person: PersonFacts;
  as: 'to' | 'cc' | 'bcc';
  /** Which recipients of the Tell stand for them, by `recipientKey`. */
  named: readonly string[];
}

/** Most levels of managers that are looked up. */
const HIGHEST = 20;

/**
 * Everybody whom a Tell tells about a task, each once: whoever is told directly is not told by a copy. Order: as written.
 */
export function toldBy(tell: CompiledTell, task: TaskFacts, facts: Facts, context: TellContext): Told[] {
  const told = new Map<PersonFacts, Told & { named: string[] }>();
  for (const recipient of tell.step.to) {
    if (context.leadId !== null && recipient.leads && !recipient.leads.includes(context.leadId)) continue;
    for (const person of expand(recipient, task, facts, context)) {
      const as = recipient.as ?? 'to';
      const known = told.get(person);
      const key = recipientKey(recipient);
      if (!known) told.set(person, { person, as, named: [key] });
      else {
        known.named.push(key);
        if (as === 'to') known.as = as;
      }
    }
  }
  return [...told.values()];
}

/** Those who stand now where somebody stood whom a Tell named, and does not name by that any more. */
export function newlyNamed(
  { recipientId, named }: { recipientId: number; named: readonly string[] },
  told: readonly Told[]
): Told[] {
  const still = told.find(({ person }) => person.id === recipientId)?.named ?? [];
  const passedOn = named.filter((key) => !still.includes(key));
  return told.filter(
    (one) => one.person.id !== recipientId && one.named.some((key) => passedOn.includes(key))
  );
}

/** By what a recipient of a Tell is known among the others: “owner”, “above 2”, “person 7”. */
export function recipientKey({ who, ...of }: Recipient): string {
  const what =
    'up' in of ? of.up : 'id' in of ? of.id : 'role' in of ? of.role : 'address' in of ? of.address : '';
  return `${who} ${what ?? ''}`.trim();
}

/** Whom one recipient stands for. */
function expand(
  recipient: Recipient,
  task: TaskFacts,
  facts: Facts,
  context: TellContext,
  inList = false
): PersonFacts[] {
  const { people } = facts;
  const byIds = (ids: Iterable<number>) => [...ids].flatMap((id) => people.get(id) ?? []);
  const project = task.projectId === null ? undefined : facts.projects.get(task.projectId);
  switch (recipient.who) {
    case 'owner':
      return byIds(ownersOf(task));
    case 'manager':
      return [
        ...new Set(byIds(ownersOf(task)).flatMap((owner) => managerOf(owner, recipient.up, facts) ?? []))
      ];
    case 'above':
      return [
        ...new Set(byIds(ownersOf(task)).flatMap((owner) => toldAbove(owner, recipient.up, facts)))
      ].filter(({ id }) => !ownersOf(task).includes(id));
    case 'creator':
      return byIds(given(facts.detailsOf(task.id).createdBy));
    case 'keeper':
      return byIds(given(context.keeperId));
    case 'actor':
      return byIds(given(context.actorId));
    case 'coordinator':
      return [...people.values()].filter(({ coordinates, active }) => coordinates && active);
    case 'members':
      return byIds(
        (project?.members ?? [])
          .filter(({ role }) => recipient.role === null || role === recipient.role)
          .map(({ personId }) => personId)
      );
    case 'person':
      return byIds([recipient.id]);
    case 'group':
      return byIds(facts.groups.get(recipient.id) ?? []);
    case 'field': {
      const value = facts.detailsOf(task.id).own.get(recipient.id);
      return byIds([value ?? []].flat().map(Number));
    }
    case 'contacts': {
      const ids = new Set([...facts.detailsOf(task.id).contactIds, ...(project?.contactIds ?? [])]);
      return [...ids].flatMap((id) => facts.contacts.get(id) ?? []);
    }
    case 'address':
      return [addressed(recipient.address, facts)].flatMap((person) => person ?? []);
    case 'readers':
      // A list names no lists, so that none can name itself.
      return inList
        ? []
        : (facts.readerLists.get(recipient.id) ?? []).flatMap((one) =>
            expand(one, task, facts, context, true)
          );
  }
}

/** The manager so many levels above somebody; null where nobody stands there. A circle ends where it began. */
function managerOf(person: PersonFacts, up: number, { people }: Facts): PersonFacts | null {
  let above: PersonFacts | null = person;
  for (let level = 0; level < Math.min(up, HIGHEST) && above; level++) {
    above = above.managerId === null ? null : (people.get(above.managerId) ?? null);
    if (above === person) return null;
  }
  return above === person ? null : above;
}

/** Somebody of the team who has this address is that person; else whoever is outside with it. */
function addressed(address: string, facts: Facts): PersonFacts | null {
  const key = addressKey(address);
  return facts.outsiders.get(key) ?? null;
}

/** An address as it is told apart: trimmed, in lower case. */
export function addressKey(address: string): string {
  return address.trim().toLowerCase();
}

export function ownersOf({ ownerId, otherOwnerIds }: TaskFacts): number[] {
  return ownerId === null ? [...otherOwnerIds] : [ownerId, ...otherOwnerIds];
}

function given(id: number | null): number[] {
  return id === null ? [] : [id];
}
