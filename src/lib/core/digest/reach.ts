import { waysFor, type Way } from '../channel/ways.ts';
import { isReachable, type Facts, type PersonFacts } from '../forecast/facts/facts.ts';
import type { TellingKind } from '../notice/kinds.ts';
import type { InstantMs } from '../time/zone.ts';
import type { DigestPart } from './model.ts';

const KIND_OF: Readonly<Record<DigestPart, TellingKind>> = {
  due: 'digest of due',
  overdue: 'digest of overdue'
};

export function kindsOf(parts: readonly DigestPart[]): TellingKind[] {
  return parts.map((part) => KIND_OF[part]);
}

/** Every way that one of the parts of a digest goes by to somebody. */
export function digestWays(reader: PersonFacts, parts: readonly DigestPart[]): Way[] {
  const ways = new Map<string, Way>();
  for (const kind of kindsOf(parts))
    for (const way of waysFor(reader, kind, null)) ways.set(way.channel, way);
  return [...ways.values()];
}

/** Why somebody is sent no digest at an instant, in words; null where they are. */
export function whyNoDigest(
  reader: PersonFacts,
  at: InstantMs,
  { hushes }: Pick<Facts, 'hushes'>
): string | null {
  if (!isReachable(reader)) return 'nobody with an address';
  if (reader.leave.covers(at)) return 'on leave';
  const isHushed = (hushes ?? []).some(
    (hush) => hush.of === 'person' && hush.id === reader.id && hush.from <= at && at < hush.until
  );
  return isHushed ? 'hushed' : null;
}
