import type { Deed } from '../../core/access/deeds.ts';
import type { ChangeRow } from '../store/changes.ts';

/** What somebody must be allowed to do, besides undoing, to take these rows back. */
export function deedsToUndo(rows: readonly ChangeRow[]): Deed[] {
  const deeds = new Set<Deed>();
  for (const { table, before, after } of rows) {
    if (table === 'project' || table === 'project_member' || table === 'section')
      deeds.add('look after projects');
    if (table === 'setting' || table === 'status' || table === 'field') deeds.add('change settings');
    const isAccess = before?.role !== after?.role || before?.active !== after?.active;
    if (table === 'person' && before && after && isAccess) deeds.add('give access');
  }
  return [...deeds];
}
