import { DateTime } from 'luxon';
import { Temporal } from 'temporal-polyfill';
import { MS_PER_DAY, parseDay } from '../../src/lib/core/time/day.ts';
import { zoneNamed } from '../../src/lib/core/time/zone.ts';
import { bestMs, bytesOf, chanceFrom, rate, ratio, type Figure } from './measure.ts';

const COUNT = 1_000_000;
/** The peers are slower by orders of magnitude: a part of the inputs is enough to know their rate. */
const PEER_COUNT = 20_000;

const ZONES = [
  'Europe/Lisbon',
  'Europe/London',
  'Europe/Paris',
  'Europe/Kyiv',
  'Europe/Istanbul',
  'Europe/Moscow',
  'Africa/Cairo',
  'Africa/Casablanca',
  'Africa/Lagos',
  'Africa/Johannesburg',
  'America/Halifax',
  'America/St_Johns',
  'America/New_York',
  'America/Chicago',
  'America/Denver',
  'America/Phoenix',
  'America/Los_Angeles',
  'America/Anchorage',
  'America/Sao_Paulo',
  'America/Santiago',
  'America/Havana',
  'America/Mexico_City',
  'Asia/Muscat',
  'Asia/Kolkata',
  'Asia/Kathmandu',
  'Asia/Tehran',
  'Asia/Jerusalem',
  'Asia/Beirut',
  'Asia/Shanghai',
  'Asia/Tokyo',
  'Asia/Singapore',
  'Australia/Hobart',
  'Australia/Sydney',
  'Australia/Adelaide',
  'Australia/Lord_Howe',
  'Pacific/Auckland',
  'Pacific/Chatham',
  'Pacific/Apia',
  'Pacific/Honolulu',
  'Atlantic/Azores'
];

/** Wall time to instant in 40 zones, 1990 to 2040, against luxon and temporal-polyfill. */
export function benchWallTime(): Figure[] {
  const chance = chanceFrom(2);
  const zones = ZONES.map(zoneNamed);
  const from = parseDay('1990-01-01') * MS_PER_DAY;
  const until = parseDay('2040-01-01') * MS_PER_DAY;
  const local = Float64Array.from(
    { length: COUNT },
    () => Math.floor((from + chance() * (until - from)) / 60_000) * 60_000
  );
  // The sum is local to the pass: a captured one would be boxed at every addition, and counted as ours.
  const pass = () => {
    let sum = 0;
    for (let i = 0; i < COUNT; i++) sum += zones[i % zones.length]!.instantOf(local[i]!);
    return sum;
  };
  const ms = bestMs(7, pass);
  const bytes = bytesOf(pass);
  const perCall = ms / COUNT;

  const partsOf = (i: number) => {
    const date = new Date(local[i]!);
    return {
      year: date.getUTCFullYear(),
      month: date.getUTCMonth() + 1,
      day: date.getUTCDate(),
      hour: date.getUTCHours(),
      minute: date.getUTCMinutes()
    };
  };
  const parts = Array.from({ length: PEER_COUNT }, (_, i) => partsOf(i));
  const luxonMs = bestMs(2, () => {
    for (let i = 0; i < PEER_COUNT; i++)
      DateTime.fromObject(parts[i]!, { zone: ZONES[i % ZONES.length]! }).toMillis();
  });
  const temporalMs = bestMs(2, () => {
    for (let i = 0; i < PEER_COUNT; i++) {
      const plain = Temporal.PlainDateTime.from(parts[i]!);
      void plain.toZonedDateTime(ZONES[i % ZONES.length]!).epochMilliseconds;
    }
  });
  const what = 'wall time to instant, 40 zones, 1990–2040';
  const note = `${bytes} bytes allocated for ${COUNT.toLocaleString('en')} calls`;
  return [
    { what, name: 'luxon', ms: luxonMs },
    { what, name: 'temporal-polyfill', ms: temporalMs }
  ].map(({ what, name, ms: peerMs }) => ({
    what,
    ours: rate(COUNT, ms),
    peer: `${name} ${rate(PEER_COUNT, peerMs)}`,
    ratio: ratio(peerMs / PEER_COUNT, perCall),
    note
  }));
}
