import rrule from 'rrule';
import { occurrences } from '../../src/lib/core/recurrence/occurrences.ts';
import { parseRecurrenceRule } from '../../src/lib/core/recurrence/rrule.ts';
import { parseDay } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { bestMs, chanceFrom, rate, ratio, type Figure } from './measure.ts';

const RULES = 1_000;
const EACH = 100;
/** The peer is slower: a part of the rules is enough to know its rate. */
const PEER_RULES = 100;
const SHAPES = [
  'FREQ=DAILY;INTERVAL=2',
  'FREQ=WEEKLY;BYDAY=MO,WE,FR',
  'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU',
  'FREQ=MONTHLY;BYMONTHDAY=1,15,-1',
  'FREQ=MONTHLY;BYDAY=-1FR',
  'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2',
  'FREQ=YEARLY;BYMONTH=3,9;BYMONTHDAY=15',
  'FREQ=YEARLY;BYDAY=20MO'
];

/** Expansion of 1,000 recurrence rules to 100 occurrences each, in UTC, against the `rrule` package. */
export function benchRecurrence(): Figure[] {
  const chance = chanceFrom(5);
  const start = parseDay('2024-01-01');
  const cases = Array.from({ length: RULES }, (_, i) => ({
    text: SHAPES[i % SHAPES.length]!,
    day: start + Math.floor(chance() * 365)
  }));
  const utc = zoneNamed('UTC');
  const ms = bestMs(9, () => {
    let sum = 0;
    for (const { text, day } of cases) {
      let left = EACH;
      for (const instant of occurrences(parseRecurrenceRule(text), { day, timeMs: 32_400_000 }, utc)) {
        sum += instant;
        if (--left === 0) break;
      }
    }
    return sum;
  });
  const peerMs = bestMs(3, () => {
    for (const { text, day } of cases.slice(0, PEER_RULES)) {
      const dtstart = new Date(day * 86_400_000 + 32_400_000);
      new rrule.RRule({ ...rrule.RRule.parseString(text), dtstart, count: EACH }).all();
    }
  });
  return [
    {
      what: `recurrence, ${RULES.toLocaleString('en')} rules × ${EACH}`,
      ours: rate(RULES * EACH, ms),
      peer: `rrule ${rate(PEER_RULES * EACH, peerMs)}`,
      ratio: ratio(peerMs / (PEER_RULES * EACH), ms / (RULES * EACH))
    }
  ];
}
