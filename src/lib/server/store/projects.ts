import type { Phase, ProjectState } from '../../core/task/model.ts';
import type { Db } from '../db/open.ts';

export interface Project {
  id: number;
  name: string;
  zone: string | null;
  calendarId: number | null;
  pinned: boolean;
  description: string;
  state: ProjectState;
  /** Its tasks are things with dates but no work. */
  register: boolean;
}

export interface Status {
  id: number;
  name: string;
  phase: Phase;
}

export interface ProjectMember {
  id: number;
  projectId: number;
  personId: number;
  /** What they do there, in words: “lead”, “diver”. */
  role: string;
}

export interface Section {
  id: number;
  projectId: number;
  name: string;
}

interface ProjectRow {
  id: number;
  name: string;
  zone: string | null;
  calendar_id: number | null;
  pinned: number;
  description: string;
  state: ProjectState;
  register: number;
}

/** Projects with their members and sections, and the statuses of the workspace. */
export class ProjectStore {
  readonly #all;
  readonly #statuses;
  readonly #statusUse;
  readonly #members;
  readonly #used;
  readonly #membersOf;
  readonly #sections;
  readonly #sectionsOf;
  readonly #tasksInSection;
  readonly #use;
  readonly #idsOf;

  constructor(db: Db) {
    this.#all = db.prepare<[], ProjectRow>('SELECT * FROM project ORDER BY name, id');
    this.#statuses = db.prepare<[], Status>('SELECT id, name, phase FROM status ORDER BY position, id');
    this.#statusUse = db.prepare<[], { id: number; count: number }>(
      'SELECT s.id, count(t.id) AS count FROM status s LEFT JOIN task t ON t.status_id = s.id GROUP BY s.id'
    );
    const member = 'SELECT id, project_id AS projectId, person_id AS personId, role FROM project_member';
    this.#used = db.prepare<[number, number], { used: 0 | 1 }>(
      `SELECT EXISTS (SELECT 1 FROM task WHERE project_id = ?) OR EXISTS (SELECT 1 FROM section WHERE project_id = ?) AS used`
    );
    this.#members = db.prepare<[], ProjectMember>(`${member} ORDER BY project_id, id`);
    this.#membersOf = db.prepare<[number], ProjectMember>(`${member} WHERE project_id = ? ORDER BY id`);
    const section = 'SELECT id, project_id AS projectId, name FROM section';
    this.#sections = db.prepare<[], Section>(`${section} ORDER BY project_id, position, id`);
    this.#sectionsOf = db.prepare<[number], Section>(`${section} WHERE project_id = ? ORDER BY position, id`);
    this.#tasksInSection = db.prepare<[number], { id: number }>('SELECT id FROM task WHERE section_id = ?');
    this.#idsOf = db.prepare<[{ people: string }], { id: number }>(
      `SELECT project_id AS id FROM project_member WHERE person_id IN (SELECT value FROM json_each(@people))
       UNION SELECT project_id FROM task WHERE owner_id IN (SELECT value FROM json_each(@people)) AND project_id IS NOT NULL`
    );
    this.#use = db.prepare<[], { projectId: number; open: number; done: number }>(
      `SELECT t.project_id AS projectId,
         sum(s.phase NOT IN ('finished', 'closed')) AS open, sum(s.phase IN ('finished', 'closed')) AS done
       FROM task t JOIN status s ON s.id = t.status_id
       WHERE t.project_id IS NOT NULL AND t.set_aside IS NULL GROUP BY t.project_id`
    );
  }

  /** The projects of which some people are members, or in which they have a task. */
  idsOf(people: readonly number[]): number[] {
    return this.#idsOf.all({ people: JSON.stringify(people) }).map(({ id }) => id);
  }

  all(): Project[] {
    return this.#all.all().map(({ calendar_id, pinned, register, ...row }) => ({
      ...row,
      calendarId: calendar_id,
      pinned: pinned === 1,
      register: register === 1
    }));
  }

  byId(id: number): Project | null {
    return this.all().find((project) => project.id === id) ?? null;
  }

  members(): ProjectMember[] {
    return this.#members.all();
  }

  membersOf(projectId: number): ProjectMember[] {
    return this.#membersOf.all(projectId);
  }

  sections(): Section[] {
    return this.#sections.all();
  }

  sectionsOf(projectId: number): Section[] {
    return this.#sectionsOf.all(projectId);
  }

  section(id: number): Section | null {
    return this.sections().find((section) => section.id === id) ?? null;
  }

  taskIdsInSection(sectionId: number): number[] {
    return this.#tasksInSection.all(sectionId).map(({ id }) => id);
  }

  /** How many open and done tasks each project has. */
  use(): Map<number, { open: number; done: number }> {
    return new Map(this.#use.all().map(({ projectId, ...counts }) => [projectId, counts]));
  }

  /** How many tasks have each status. */
  statusUse(): Map<number, number> {
    return new Map(this.#statusUse.all().map(({ id, count }) => [id, count]));
  }

  /** In the order in which they are offered. */
  /** Whether a task or a section stands in it, wherever the task is. */
  isUsed(id: number): boolean {
    return this.#used.get(id, id)!.used === 1;
  }

  statuses(): Status[] {
    return this.#statuses.all();
  }
}
