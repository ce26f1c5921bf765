import { CodedError } from '../../core/errors.ts';
import type { Row } from '../db/row.ts';
import type { MemberInput, ProjectInput } from './schema.ts';
import type { Stores } from '../store/all.ts';
import type { ChangeWriter } from '../store/change-writer.ts';
import type { Project } from '../store/projects.ts';
import type { Actor, Committed, Committer } from '../workspace/commit.ts';

/** Projects, their members and their sections. */
export class ProjectService {
  readonly #stores: Stores;
  readonly #committer: Committer;

  constructor(stores: Stores, committer: Committer) {
    this.#stores = stores;
    this.#committer = committer;
  }

  /** @throws CodedError `project-twice` */
  add(actor: Actor, input: ProjectInput): Committed<number> {
    this.#checkName(input, null);
    return this.#committer.commit(actor, `Project “${input.name}” added`, (writer) =>
      this.insert(writer, input)
    );
  }

  /** Inserts a project inside a change that is under way. */
  insert(writer: ChangeWriter, input: ProjectInput): number {
    const id = writer.insert('project', columns(input));
    const { actorId } = writer.head;
    // Whoever starts one is in it.
    if (actorId !== null)
      writer.insert('project_member', { project_id: id, person_id: actorId, role: 'lead' });
    return id;
  }

  /** Calling a project off or closing it silences its rules; opening it again lets rings ahead ring. @throws CodedError `project-gone` or `project-twice` */
  edit(actor: Actor, id: number, input: ProjectInput): Committed<void> {
    const before = this.#need(id);
    if (input.name !== before.name || input.state !== before.state) this.#checkName(input, id);
    const title =
      before.state === input.state
        ? `Project “${input.name}” changed`
        : `Project “${input.name}” ${input.state === 'open' ? 'opened again' : input.state}`;
    return this.#committer.commit(
      actor,
      title,
      (writer) => void writer.update('project', id, columns(input))
    );
  }

  /** Adds a member or changes what they do. @throws CodedError `project-gone` or `person-gone` */
  saveMember(actor: Actor, projectId: number, { personId, role }: MemberInput): Committed<void> {
    const project = this.#need(projectId);
    const person = this.#stores.people.byId(personId);
    if (!person) throw new CodedError('person-gone', {}, 'personId');
    const known = this.#stores.projects.membersOf(projectId).find((member) => member.personId === personId);
    return this.#committer.commit(actor, `${person.name} in “${project.name}”`, (writer) => {
      if (known) writer.update('project_member', known.id, { role });
      else writer.insert('project_member', { project_id: projectId, person_id: personId, role });
    });
  }

  /** @throws CodedError `member-gone` */
  dropMember(actor: Actor, projectId: number, memberId: number): Committed<void> {
    const project = this.#need(projectId);
    const member = this.#stores.projects.membersOf(projectId).find(({ id }) => id === memberId);
    if (!member) throw new CodedError('member-gone');
    const name = this.#stores.people.byId(member.personId)?.name ?? 'Somebody';
    return this.#committer.commit(actor, `${name} removed from “${project.name}”`, (writer) => {
      writer.remove('project_member', memberId);
    });
  }

  /** @param id null adds one at the end. @throws CodedError `section-gone` */
  saveSection(actor: Actor, projectId: number, id: number | null, name: string): Committed<void> {
    const project = this.#need(projectId);
    const sections = this.#stores.projects.sectionsOf(projectId);
    if (id !== null && !sections.some((section) => section.id === id)) throw new CodedError('section-gone');
    return this.#committer.commit(actor, `Section “${name}” of “${project.name}”`, (writer) => {
      if (id !== null) writer.update('section', id, { name });
      else writer.insert('section', { project_id: projectId, name, position: sections.length });
    });
  }

  /** Moves a section one place up or down. @throws CodedError `section-gone` */
  moveSection(actor: Actor, projectId: number, id: number, by: -1 | 1): Committed<void> {
    const project = this.#need(projectId);
    const ids = this.#stores.projects.sectionsOf(projectId).map((section) => section.id);
    const at = ids.indexOf(id);
    if (at < 0) throw new CodedError('section-gone');
    ids.splice(at, 1);
    ids.splice(Math.max(0, Math.min(ids.length, at + by)), 0, id);
    return this.#committer.commit(actor, `Sections of “${project.name}” reordered`, (writer) => {
      ids.forEach((sectionId, position) => writer.update('section', sectionId, { position }));
    });
  }

  /** Takes a section out; its tasks stay in the project. @throws CodedError `section-gone` */
  dropSection(actor: Actor, projectId: number, id: number): Committed<void> {
    const project = this.#need(projectId);
    const section = this.#stores.projects.sectionsOf(projectId).find((one) => one.id === id);
    if (!section) throw new CodedError('section-gone');
    return this.#committer.commit(
      actor,
      `Section “${section.name}” of “${project.name}” removed`,
      (writer) => {
        for (const taskId of this.#stores.projects.taskIdsInSection(id))
          writer.update('task', taskId, { section_id: null });
        writer.remove('section', id);
      }
    );
  }

  /** Open projects are told apart by their names, however these are written. */
  #checkName({ name, state }: ProjectInput, id: number | null): void {
    const fold = (text: string) => text.trim().toLocaleLowerCase('en');
    if (state !== 'open') return;
    const other = this.#stores.projects
      .all()
      .find((one) => one.id !== id && one.state === 'open' && fold(one.name) === fold(name));
    if (other) throw new CodedError('project-twice', { name: other.name }, 'name');
  }

  #need(id: number): Project {
    const project = this.#stores.projects.byId(id);
    if (!project) throw new CodedError('project-gone');
    return project;
  }
}

function columns({ name, description, zone, calendarId, pinned, state, register }: ProjectInput): Row {
  return {
    name,
    description,
    zone,
    calendar_id: calendarId,
    pinned: pinned ? 1 : 0,
    state,
    register: register ? 1 : 0
  };
}
