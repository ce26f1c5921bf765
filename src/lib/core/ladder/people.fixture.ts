import { CompiledCalendar } from '../calendar/compiled.ts';
import { parseCalendar } from '../calendar/spec.ts';
import { ORDINARY, type PersonFacts } from '../forecast/facts/facts.ts';
import { zoneNamed } from '../time/zone.ts';

/** People in three places, and the weeks that they work. */
export const HALIFAX = zoneNamed('America/Halifax');
export const LISBON = zoneNamed('Europe/Lisbon');
export const MUSCAT = zoneNamed('Asia/Muscat');
const MON_FRI = Object.fromEntries(['mon', 'tue', 'wed', 'thu', 'fri'].map((day) => [day, ['09:00-17:00']]));
const SUN_THU = Object.fromEntries(['sun', 'mon', 'tue', 'wed', 'thu'].map((day) => [day, ['08:00-16:00']]));
export const halifax = new CompiledCalendar(parseCalendar({ week: MON_FRI }), HALIFAX);
// Good Friday of 2026 is 3 April (from memory), a closed day in Portugal.
export const lisbon = new CompiledCalendar(parseCalendar({ week: MON_FRI, closed: ['2026-04-03'] }), LISBON);
export const muscat = new CompiledCalendar(parseCalendar({ week: SUN_THU }), MUSCAT);

export const person = (id: number, patch: Partial<PersonFacts>): PersonFacts => ({
  ...{ id, name: `Person ${id}`, email: `p${id}@test.example`, managerId: null },
  ...{ zone: LISBON, calendar: lisbon, ...ORDINARY },
  ...patch
});
