import type { StripView } from '$lib/view/models.ts';

/** A stretch of the strip, from one of its hours to the next, with whoever hears something in it. */
export interface StripHours {
  /** When it begins. */
  fromMs: number;
  label: string;
  people: { personId: number; name: string; count: number; bellKey: string | null }[];
}

/** The strip as a list by its hours, for a screen that is too narrow to draw it; stretches in which nothing rings are left out. */
export function stripHours({
  ticks,
  rows,
  fromMs
}: Pick<StripView, 'ticks' | 'rows' | 'fromMs'>): StripHours[] {
  const starts = [{ atMs: fromMs, label: 'now' }, ...ticks];
  return starts
    .map(({ atMs, label }, i) => {
      const until = starts[i + 1]?.atMs ?? Infinity;
      const people = rows.flatMap(({ personId, name, marks }) => {
        const inside = marks.filter((mark) => mark.atMs >= atMs && mark.atMs < until);
        const count = inside.reduce((sum, mark) => sum + mark.count, 0);
        return count > 0 ? [{ personId, name, count, bellKey: inside[0]!.bellKey }] : [];
      });
      return { fromMs: atMs, label: i === 0 ? label : `from ${label}`, people };
    })
    .filter(({ people }) => people.length > 0);
}
