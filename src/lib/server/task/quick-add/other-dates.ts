import * as chrono from 'chrono-node';
import type { OtherReader } from '../../../core/typed/date.ts';
import { dateOf } from '../../../core/typed/date-parts.ts';
import { withoutLeading } from '../../../core/typed/without-tail.ts';
import { pad2 } from '../../../core/time/day.ts';
import { longDay } from '../../../core/time/format.ts';

/** What people write for a date besides our own words, at the wall of whoever types: “in 3 hours”, “a week on Tuesday”. */
export const readOtherDate: OtherReader = (text, { wall }, ends) => {
  // Without regard to the zone of this machine.
  const results = chrono.en.GB.parse(text, { instant: new Date(wall), timezone: 0 }, { forwardDate: true });
  const result = results.at(-1);
  if (!result || result.index + result.text.length !== text.length) return null;
  if (result.index > 0 && !ends) return null;
  const { start } = result;
  const exact = start.isCertain('day') || start.isCertain('hour');
  if (!exact || result.end) return null;
  const day = dateOf(start.get('year')!, start.get('month')!, start.get('day')!);
  if (typeof day === 'string') return null;
  const hour = start.isCertain('hour') ? start.get('hour')! : null;
  const time = hour === null ? null : `${pad2(hour)}:${pad2(start.get('minute') ?? 0)}`;
  return {
    choices: [{ day, time, label: `${longDay(day)}${time ? ` at ${time}` : ''}` }],
    certain: start.isCertain('day'),
    rest: withoutLeading(text.slice(0, result.index))
  };
};
