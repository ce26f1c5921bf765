import { watchWords } from '../../core/rule/words/watch-words.ts';
import { shortSentence } from '../../core/rule/words/sentence.ts';
import { canBeOverdue, type TaskFacts } from '../../core/forecast/facts/facts.ts';
import { watchedPhases } from '../../core/rule/model.ts';
import { OPEN_PHASES, PRIORITIES } from '../../core/task/model.ts';
import { placeOfZone } from '../../core/time/zone-names.ts';
import type { ProjectDetailView, ProjectRowView } from '../../view/projects.ts';
import type { RuleReasonView } from '../../view/task-detail.ts';
import type { Workspace } from '../workspace/workspace.ts';
import { recordNames } from '../engine/names.ts';
import type { Project } from '../store/projects.ts';
import type { Sight, Task } from '../store/tasks.ts';
import { taskRows, type RowContext } from '../task/task-rows.ts';
import type { Viewer } from '../workspace/viewer.ts';

/** Every project that somebody sees: a coordinator all, others those of which they are members or in which they have a task. */
export function projectRows(app: Workspace, sight: Sight): ProjectRowView[] {
  const { stores, source } = app;
  const mine = sight.all ? null : new Set(stores.projects.idsOf([sight.personId]));
  const opened = stores.projects.all().filter(({ id }) => mine?.has(id) ?? true);
  return rowsOf(app, opened, source.whole.tasks());
}

/** @param tasks every task that is in one of them; others do no harm */
function rowsOf(app: Workspace, projects: readonly Project[], tasks: readonly TaskFacts[]): ProjectRowView[] {
  const { stores, source, clock } = app;
  const now = clock.now();
  const use = stores.projects.use();
  const members = stores.projects.members();
  const overdue = new Map<number, number>();
  for (const task of tasks) {
    if (task.projectId === null || !canBeOverdue(task)) continue;
    const dueAt = source.planner.dates.momentOf('due', task);
    if (dueAt !== null && now >= dueAt) overdue.set(task.projectId, (overdue.get(task.projectId) ?? 0) + 1);
  }
  const nameOf = (id: number) => source.facts.people.get(id)?.name ?? 'a removed person';
  return projects.map((project) => ({
    id: project.id,
    name: project.name,
    state: project.state,
    register: project.register,
    place: project.zone && placeOfZone(project.zone),
    pinned: project.pinned,
    members: members
      .filter(({ projectId }) => projectId === project.id)
      .map(({ personId }) => nameOf(personId)),
    open: use.get(project.id)?.open ?? 0,
    done: use.get(project.id)?.done ?? 0,
    overdue: overdue.get(project.id) ?? 0,
    rules: rulesOver(app, project).filter(({ applies }) => applies).length
  }));
}

/** Open tasks that stand on the page of their project; the list has the rest. */
const TASKS_SHOWN = 12;

/** By due date and time, those without a date last. */
function soonestFirst(a: Task, b: Task): number {
  const key = ({ due }: Task) => (due ? `${due.date} ${due.time ?? '24:00'}` : 'none');
  const [first, second] = [key(a), key(b)];
  return first === second ? a.id - b.id : first < second ? -1 : 1;
}

/** A project as it opens; null when somebody does not see it. */
export function projectDetail(
  app: Workspace,
  id: number,
  viewer: Viewer,
  sight: Sight
): ProjectDetailView | null {
  const { stores, source, clock } = app;
  const project = stores.projects.byId(id);
  if (!project || !(sight.all || stores.projects.idsOf([sight.personId]).includes(id))) return null;
  const openTasks = stores.tasks.openOfProject(id);
  const open = openTasks.map((task) => task.id);
  const [row] = rowsOf(app, [project], stores.tasks.factsAmong(open));
  const visible = stores.tasks.seen(open, sight);
  const byDue = openTasks.filter((task) => visible.has(task.id)).sort(soonestFirst);
  const shown: RowContext = { stores, source, now: clock.now() };
  const connected = stores.taskParts
    .linksToProject(id)
    .flatMap(({ taskId }) => stores.tasks.byId(taskId) ?? []);
  const seen = stores.tasks.seen(
    connected.map((task) => task.id),
    sight
  );
  const contacts = stores.contacts.links().filter(({ projectId }) => projectId === id);
  return {
    row: row!,
    values: {
      name: project.name,
      description: project.description,
      zone: project.zone ?? '',
      calendarId: project.calendarId,
      pinned: project.pinned,
      state: project.state,
      register: project.register
    },
    members: stores.projects.membersOf(id).map(({ id: memberId, personId, role }) => {
      const person = source.facts.people.get(personId);
      return {
        id: memberId,
        personId,
        name: person?.name ?? 'a removed person',
        place: person ? placeOfZone(person.zone.nameAt(clock.now())) : '',
        role
      };
    }),
    sections: stores.projects.sectionsOf(id).map(({ id: sectionId, name }) => ({
      id: sectionId,
      name,
      tasks: stores.projects.taskIdsInSection(sectionId).length
    })),
    tasks: taskRows(shown, byDue.slice(0, TASKS_SHOWN), viewer.zone, sight),
    connected: taskRows(
      shown,
      connected.filter((task) => seen.has(task.id)),
      viewer.zone,
      sight
    ),
    contacts: contacts.flatMap(({ contactId }) => stores.contacts.byId(contactId)?.name ?? []),
    rules: rulesOver(app, project)
  };
}

/** Every rule that is on: whether it covers a project, and why or why not. */
function rulesOver(app: Workspace, project: Project): RuleReasonView[] {
  const names = recordNames(app.stores);
  return app.stores.rules.made().flatMap((rule): RuleReasonView[] => {
    const version = rule.liveVersion === null ? null : app.stores.rules.version(rule.liveVersion);
    if (rule.state !== 'on' || !version) return [];
    const { watch } = version.definition;
    const phases = watchedPhases(version.definition);
    const named = watch.projects?.includes(project.id) ?? false;
    if (watch.projects && !named)
      return [
        {
          id: rule.id,
          name: rule.name,
          applies: false,
          reasons: [`it watches ${watchWords(version.definition, names)}`]
        }
      ];
    if (project.state !== 'open')
      return [{ id: rule.id, name: rule.name, applies: false, reasons: [`the project is ${project.state}`] }];
    const scope = named ? 'it names this project' : 'it watches all projects';
    const some =
      watch.condition !== null ||
      watch.tags.length > 0 ||
      watch.priorities.length < PRIORITIES.length ||
      !OPEN_PHASES.every((phase) => phases.includes(phase));
    const which = some ? [`only some of its tasks: ${watchWords(version.definition, names)}`] : [];
    return [
      {
        id: rule.id,
        name: rule.name,
        applies: true,
        reasons: [scope, ...which, shortSentence(version.definition, names)]
      }
    ];
  });
}
