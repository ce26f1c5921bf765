import { CodedError } from '../errors.ts';
import type { Facts } from '../forecast/facts/facts.ts';
import type { DigestDefinition } from './model.ts';
import { digestSchedule, nextScheduled } from './when.ts';

/**
 * Whether a digest can be what it says.
 * @throws CodedError `digest-no-readers`, `digest-no-sections`, `digest-own-together`, and what keeps its schedule from being read
 */
export function checkDigest(
  definition: DigestDefinition,
  { workspace }: Pick<Facts, 'workspace'>,
  now: number
): void {
  const { when, to, sections, about, gather } = definition;
  if (to.length === 0) throw new CodedError('digest-no-readers', {}, 'to');
  if (sections.length === 0 && about === 'own') throw new CodedError('digest-no-sections', {}, 'sections');
  if (about !== 'everybody' && gather === 'together')
    throw new CodedError('digest-own-together', {}, 'gather');
  if (when.by !== 'schedule') return;
  const schedule = digestSchedule(when, workspace.zone);
  // The first two are enough to see that it is not too often.
  const first = nextScheduled(now, schedule, workspace.calendar);
  if (first !== null) nextScheduled(first, schedule, workspace.calendar);
}
