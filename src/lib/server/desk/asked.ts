import { dayOrNull } from '../../core/time/day.ts';
import { RHYTHMS, type Rhythm } from '../../view/desk.ts';
import type { RowsAsked } from './desk-views.ts';

/** The filter of a Desk in its address; null for all. */
export function rhythmAsked(parameters: URLSearchParams): Rhythm | null {
  return RHYTHMS.find((one) => one === parameters.get('rhythm')) ?? null;
}

/** Which rows an address asks for: `of=today`, `day=2026-03-06`, `month=2026-04`, `span=after`; null for what is none of them. */
export function rowsAsked(parameters: URLSearchParams): RowsAsked | null {
  const day = dayOrNull(parameters.get('day') ?? '');
  if (day !== null) return { of: 'day', day };
  const month = parameters.get('month') ?? '';
  if (/^\d{4}-\d{2}$/.test(month)) return { of: 'month', month };
  const span = (['rest', 'after', 'further'] as const).find((one) => one === parameters.get('span'));
  if (span) return { of: 'no day', span };
  const of = (['to-place', 'today', 'undated', 'parked', 'finished'] as const).find(
    (one) => one === parameters.get('of')
  );
  return of ? { of } : null;
}
