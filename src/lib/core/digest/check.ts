import { CodedError } from '../errors.ts';
import type { Facts } from '../forecast/facts/facts.ts';
import type { DigestDefinition } from './model.ts';
import { digestSchedule, nextScheduled } from './when.ts';

/**
 * Whether a digest can be what it says.
 * @throws CodedError `digest-no-readers`, `digest-no-sections`, `digest-own-together`, `digest-no-list`, `digest-list-gone`, `digest-list-unfit`, and what keeps its schedule from being read
 */
export function checkDigest(
  definition: DigestDefinition,
  { workspace, lists }: Pick<Facts, 'workspace' | 'lists'>,
  now: number
): void {
  const { when, to, sections, about, gather, watch, table } = definition;
  if (to.length === 0) throw new CodedError('digest-no-readers', {}, 'to');
  if (sections.length === 0 && about === 'own') throw new CodedError('digest-no-sections', {}, 'sections');
  if (about !== 'everybody' && gather === 'together')
    throw new CodedError('digest-own-together', {}, 'gather');
  if (watch.list !== null) checkList(watch.list, lists, 'watch');
  if (sections.includes('all of a list')) {
    if (table.list === null) throw new CodedError('digest-no-list', {}, 'sections');
    checkList(table.list, lists, 'sections');
  }
  if (when.by !== 'schedule') return;
  const schedule = digestSchedule(when, workspace.zone);
  // The first two are enough to see that it is not too often.
  const first = nextScheduled(now, schedule, workspace.calendar);
  if (first !== null) nextScheduled(first, schedule, workspace.calendar);
}

function checkList(id: number, lists: Facts['lists'], where: string): void {
  const list = lists.get(id);
  if (list === undefined) throw new CodedError('digest-list-gone', {}, where);
  if (typeof list === 'string') throw new CodedError('digest-list-unfit', { why: list }, where);
}
