import type { CompiledCalendar } from '../calendar/compiled.ts';
import type { MinuteOfDay } from '../time/time-of-day.ts';
import type { Zone } from '../time/zone.ts';
import type { AnchorKind } from './lead.ts';
import type { EndOfDay } from './moments.ts';

/** Everything steps 1 to 4 need besides the lead and the anchor. */
export interface RingContext {
  /** Which moment a date anchor stands for. */
  kind: AnchorKind;
  /** What the anchor is called in `why`, where that is not its kind. */
  name?: string;
  /** The ring's zone: on whose wall the time of day is read. */
  zone: Zone;
  /** The zone of a date anchor's due or start moment. */
  anchorZone: Zone;
  /** The calendar that working days are counted on and closed days are judged by. */
  calendar: CompiledCalendar;
  /** Whose close of business ends a due date when `endOfDay` is `close`. */
  dueCalendar: CompiledCalendar;
  /** On whose wall it closes, where that is not the `anchorZone`. */
  closeZone?: Zone;
  endOfDay: EndOfDay;
  /** Time of day of a ring on a date when the lead names none. */
  noticeMinute: MinuteOfDay;
}
