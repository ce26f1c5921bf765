import { zoneNames } from '../../core/time/zone-names.ts';
import type { Container } from '../container.ts';

/** What can be chosen in the form of a person. */
export function personChoices(app: Container, exceptId: number | null) {
  return {
    zones: [...zoneNames()],
    calendars: app.stores.calendars.all().map(({ id, name, week }) => ({ id, name, week })),
    managers: app.stores.people
      .all()
      .filter(({ id, active }) => active && id !== exceptId)
      .map(({ id, name }) => ({ id, name }))
  };
}
