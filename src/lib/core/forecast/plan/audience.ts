import type { CompiledTell } from '../../rule/program.ts';
import type { CompiledLead } from '../facts/compile-lead.ts';
import type { RuleFacts } from '../facts/compile-rule.ts';
import type { Facts, PersonFacts, TaskFacts } from '../facts/facts.ts';
import { leadOfReminder, remindersFor } from '../facts/reminders.ts';
import { ownersOf, toldBy, type Told } from '../facts/recipients.ts';
import type { TaskDates } from '../facts/task-dates.ts';

/** Whom rules tell of tasks, and by which of their leads. */
export class Audience {
  readonly #facts: Facts;
  readonly #dates: TaskDates;
  readonly #one: PersonFacts[] = [];
  /** By Tell, owner and project. */
  readonly #alike = new Map<CompiledTell, Map<number | null, Map<number | null, readonly PersonFacts[]>>>();

  constructor(facts: Facts, dates: TaskDates) {
    this.#facts = facts;
    this.#dates = dates;
  }

  /**
   * Whom a Tell tells of a task, each once.
   * @param leadId the lead that rings; null asks for all of them
   */
  told(
    rule: RuleFacts,
    tell: CompiledTell,
    task: TaskFacts,
    leadId: string | null,
    actorId: number | null = null
  ): Told[] {
    return toldBy(tell, task, this.#facts, { keeperId: rule.keeperId, actorId, leadId });
  }

  /** Whom a rule tells about a task by its Tells at planned rings, each once. The list is shared: read it before the next call. */
  recipients(rule: RuleFacts, tell: CompiledTell, task: TaskFacts): readonly PersonFacts[] {
    if (rule.ofTask) return this.#reminded(rule, task);
    if (tell.single !== null && task.otherOwnerIds.length === 0) {
      const told = this.#toldAlone(tell.single, this.#dates.ownerOf(task));
      if (!told) return NOBODY;
      this.#one[0] = told;
      return this.#one;
    }
    if (!tell.byOwner || task.otherOwnerIds.length > 0)
      return this.told(rule, tell, task, null).map(({ person }) => person);
    return this.#toldAlike(rule, tell, task);
  }

  /** Whom a Tell tells of every task of one owner and project: looked up once for them. */
  #toldAlike(rule: RuleFacts, tell: CompiledTell, task: TaskFacts): readonly PersonFacts[] {
    let known = this.#alike.get(tell);
    if (!known) this.#alike.set(tell, (known = new Map()));
    const { ownerId, projectId } = task;
    let ofOwner = known.get(ownerId);
    if (!ofOwner) known.set(ownerId, (ofOwner = new Map()));
    let people = ofOwner.get(projectId);
    if (!people)
      ofOwner.set(projectId, (people = this.told(rule, tell, task, null).map(({ person }) => person)));
    return people;
  }

  /** Whether a Tell tells somebody of a task as it stands. Whoever was asked is asked, whoever the task comes to. */
  isTold(
    rule: RuleFacts,
    tell: CompiledTell,
    task: TaskFacts,
    of: { leadId: string; actorId: number | null; recipientId: number }
  ): boolean {
    if (tell.step.to.length === 0) return true;
    const told = rule.ofTask
      ? this.recipients(rule, tell, task)
      : this.told(rule, tell, task, of.leadId, of.actorId).map(({ person }) => person);
    return told.some(({ id }) => id === of.recipientId);
  }

  /** Everybody whom a rule tells about a task before anything else is done, by any of its Tells. */
  everybody(rule: RuleFacts, task: TaskFacts): PersonFacts[] {
    const { leading, tells } = rule.program;
    const asked = leading.length > 0 ? leading : [...tells.values()];
    return [...new Set(asked.flatMap((tell) => [...this.recipients(rule, tell, task)]))];
  }

  /** Planned leads of a rule by which a Tell tells somebody of a task. */
  leadsFor(
    rule: RuleFacts,
    tell: CompiledTell,
    task: TaskFacts,
    person: PersonFacts
  ): readonly CompiledLead[] {
    if (rule.ofTask) {
      const owns = ownersOf(task).includes(person.id);
      return remindersFor(task, rule.standing)
        .filter((reminder) => (reminder.personId === null ? owns : reminder.personId === person.id))
        .map((reminder) => leadOfReminder(task, reminder));
    }
    if (tell.leads === null && !tell.filtered) return rule.planned;
    return rule.planned.filter(
      ({ lead: { id } }) =>
        (tell.leads === null || tell.leads.has(id)) &&
        (!tell.filtered || this.told(rule, tell, task, id).some((told) => told.person === person))
    );
  }

  #toldAlone(single: 'owner' | 'manager', owner: PersonFacts | null): PersonFacts | null {
    if (single === 'owner') return owner;
    if (!owner || owner.managerId === null || owner.managerId === owner.id) return null;
    return this.#facts.people.get(owner.managerId) ?? null;
  }

  #reminded({ standing }: RuleFacts, task: TaskFacts): readonly PersonFacts[] {
    const reminders = remindersFor(task, standing);
    if (reminders.length === 0) return NOBODY;
    const owned = reminders.some(({ personId }) => personId === null);
    const ids = [...(owned ? ownersOf(task) : []), ...reminders.flatMap(({ personId }) => personId ?? [])];
    return [...new Set(ids)].flatMap((id) => this.#facts.people.get(id) ?? []);
  }
}

const NOBODY: readonly PersonFacts[] = [];
