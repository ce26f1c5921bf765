import { CodedError } from '../../core/errors.ts';
import type { Stores } from '../store/all.ts';
import type { Sight } from '../store/tasks.ts';

/**
 * The projects that are open to somebody: of which they are a member or in which they have a task; all of them to a coordinator. Whoever has a task in
 * a project sees what is in it, so nobody else can put one of their own there.
 */
export function projectsOpenTo(stores: Stores, sight: Sight): (projectId: number) => boolean {
  if (sight.all) return () => true;
  const own = new Set(stores.projects.idsOf([sight.personId]));
  return (projectId) => own.has(projectId);
}

/** The projects into which somebody may put tasks of some owner: those that are open to them; of their reports’ tasks those that are open to the report. */
export function mayPutInto(stores: Stores, sight: Sight, projectId: number, ownerId: number | null): boolean {
  if (projectsOpenTo(stores, sight)(projectId)) return true;
  const ofReport = ownerId !== null && ownerId !== sight.personId && sight.reports.includes(ownerId);
  return ofReport && stores.projects.idsOf([ownerId]).includes(projectId);
}

/** @throws CodedError `project-not-open` */
export function checkPutInto(stores: Stores, sight: Sight, projectId: number, ownerId: number | null): void {
  if (!mayPutInto(stores, sight, projectId, ownerId))
    throw new CodedError('project-not-open', {}, 'projectId');
}

/** The projects that somebody is offered where tasks are put into one. */
export function offeredProjects(stores: Stores, sight: Sight): { id: number; name: string }[] {
  const offered = sight.all ? null : new Set(stores.projects.idsOf([sight.personId, ...sight.reports]));
  return stores.projects
    .all()
    .filter(({ id, state }) => state === 'open' && (offered === null || offered.has(id)))
    .map(({ id, name }) => ({ id, name }));
}
