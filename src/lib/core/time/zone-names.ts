import { CodedError } from '../errors.ts';
import { nearest } from '../nearest.ts';

/**
 * The name a zone is compared by: the runtime's own spelling of an IANA zone or link. Offsets such as `+02:00` are
 * refused, because a fixed offset is what turns a 9 o'clock into another hour after a clock change.
 * @throws CodedError `zone-unknown`, with the nearest names
 */
export function canonicalZoneName(name: string): string {
  const known = cache.get(name);
  if (known !== undefined) return known;
  if (!/^[A-Za-z]/.test(name)) throw unknownZone(name);
  try {
    const canonical = new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone;
    cache.set(name, canonical);
    return canonical;
  } catch {
    throw unknownZone(name);
  }
}

const cache = new Map<string, string>();

function unknownZone(name: string): CodedError {
  const names = nearest(name, zoneNames(), (zone) => [zone, zone.slice(zone.lastIndexOf('/') + 1)]);
  return new CodedError('zone-unknown', {
    value: name,
    nearest: names.length > 0 ? ` Did you mean ${names.join(' or ')}?` : ''
  });
}

/** Every zone name the runtime lists, in alphabetical order. */
export function zoneNames(): readonly string[] {
  names ??= [...new Set(['UTC', ...RENAMED, ...Intl.supportedValuesOf('timeZone')])].sort();
  return names;
}

/** Zones whose present name the runtime accepts but lists only under an older one. */
const RENAMED = [
  'America/Argentina/Buenos_Aires',
  'America/Nuuk',
  'Asia/Ho_Chi_Minh',
  'Asia/Kathmandu',
  'Asia/Kolkata',
  'Asia/Yangon',
  'Atlantic/Faroe',
  'Europe/Kyiv',
  'Pacific/Chuuk',
  'Pacific/Kanton',
  'Pacific/Pohnpei'
];

let names: string[] | undefined;

/** The place a person reads for a zone: `America/Argentina/Buenos_Aires` is “Buenos Aires”. */
export function placeOfZone(zone: string): string {
  return zone.slice(zone.lastIndexOf('/') + 1).replaceAll('_', ' ');
}
