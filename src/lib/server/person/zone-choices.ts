import { MS_PER_DAY, MS_PER_MINUTE } from '../../core/time/day.ts';
import { zoneNames } from '../../core/time/zone-names.ts';
import type { ZoneChoice } from '../../view/people.ts';

/** Offsets change at quarters of an hour. */
const KEPT_MS = 15 * MS_PER_MINUTE;

/** The offset of each zone, in ms east of UTC, in one quarter of an hour. */
let kept: { quarter: number; offsets: ReadonlyMap<string, number> } | null = null;

/**
 * Every zone with the time there now. To compile four hundred zones for fifty years takes seconds: of those that nobody goes by only the
 * offset of the moment is asked for.
 * @param now workspace clock
 */
export function zoneChoices(now: number): ZoneChoice[] {
  const quarter = Math.floor(now / KEPT_MS);
  if (kept?.quarter !== quarter)
    kept = { quarter, offsets: new Map(zoneNames().map((name) => [name, offsetNow(name, now)])) };
  const { offsets } = kept;
  return zoneNames().map((name) => {
    const minutes = Math.floor(
      ((((now + offsets.get(name)!) % MS_PER_DAY) + MS_PER_DAY) % MS_PER_DAY) / MS_PER_MINUTE
    );
    return { name, time: `${two(minutes / 60)}:${two(minutes % 60)}` };
  });
}

/** What the wall shows, less what UTC shows. */
function offsetNow(timeZone: string, now: number): number {
  const format = new Intl.DateTimeFormat('en-GB', {
    ...({ timeZone, hourCycle: 'h23', year: 'numeric', month: 'numeric', day: 'numeric' } as const),
    ...({ hour: 'numeric', minute: 'numeric', second: 'numeric' } as const)
  });
  const part = Object.fromEntries(
    format.formatToParts(now).map(({ type, value }) => [type, Number(value)])
  ) as Record<Intl.DateTimeFormatPartTypes, number>;
  const wall = Date.UTC(part.year, part.month - 1, part.day, part.hour, part.minute, part.second);
  return wall - Math.floor(now / 1_000) * 1_000;
}

function two(number: number): string {
  return String(Math.floor(number)).padStart(2, '0');
}
