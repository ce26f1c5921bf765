// @ts-expect-error it has no types of its own
import businessMoment from 'moment-business-time';
import { CompiledCalendar } from '../../src/lib/core/calendar/compiled.ts';
import { parseCalendar } from '../../src/lib/core/calendar/spec.ts';
import { MS_PER_DAY, parseDay } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { bestMs, bytesOf, chanceFrom, rate, ratio, type Figure } from './measure.ts';

const COUNT = 1_000_000;
const PEER_COUNT = 2_000;

/** The part of moment-business-time that is measured; its calendar is nine to five from Monday to Friday unless told otherwise. */
type BusinessMoment = (ms: number) => {
  addWorkingTime(minutes: number, unit: 'minutes'): { valueOf(): number };
};

/** Working-minute offsets of up to four working weeks, against `moment-business-time`. */
export function benchWorkingMinutes(): Figure[] {
  const chance = chanceFrom(4);
  const open = ['09:00-17:00'];
  const week = { mon: open, tue: open, wed: open, thu: open, fri: open };
  const { spans } = new CompiledCalendar(parseCalendar({ week }), zoneNamed('UTC'));
  const first = parseDay('2026-01-01') * MS_PER_DAY;
  const from = Float64Array.from({ length: COUNT }, () => first + Math.floor(chance() * 365 * 1440) * 60_000);
  const minutes = Int32Array.from({ length: COUNT }, () => 1 + Math.floor(chance() * 9_600));
  const pass = (count = COUNT) => {
    let sum = 0;
    for (let i = 0; i < count; i++) sum += spans.offset(from[i]!, minutes[i]! * 60_000);
    return sum;
  };
  // Many short passes first: code that is compiled in the middle of one long loop is compiled less well than the same code in use.
  for (let i = 0; i < 200; i++) pass(1_000);
  const ms = bestMs(7, () => pass());
  const bytes = bytesOf(() => pass());
  const moment = businessMoment as { utc: BusinessMoment };
  const peerMs = bestMs(1, () => {
    for (let i = 0; i < PEER_COUNT; i++)
      moment.utc(from[i]!).addWorkingTime(minutes[i]!, 'minutes').valueOf();
  });
  return [
    {
      what: 'working-minute offsets, up to four weeks',
      ours: rate(COUNT, ms),
      peer: `moment-business-time ${rate(PEER_COUNT, peerMs)}`,
      ratio: ratio(peerMs / PEER_COUNT, ms / COUNT),
      note: `${bytes} bytes allocated for ${COUNT.toLocaleString('en')} calls`
    }
  ];
}
