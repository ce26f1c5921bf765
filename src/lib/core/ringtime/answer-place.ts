import { ALWAYS_OPEN, parseCalendar } from '../calendar/spec.ts';
import { placementAt, type DeskTask, type PlaceReason } from '../desk/placement.ts';
import { planForDay, planForSpan, type Plan } from '../desk/plan.ts';
import { placeWords } from '../desk/place-words.ts';
import { Wall } from '../desk/wall.ts';
import { CodedError, withField } from '../errors.ts';
import { formatDay, parseDay } from '../time/day.ts';
import { dayOfMoment, formatInstant, parseInstant, parseMoment } from '../time/instant.ts';
import { zoneNamed, type InstantMs } from '../time/zone.ts';
import type { RingAnswer } from './case.ts';
import type { PlaceCase } from './place-case.ts';

/**
 * `ask: place`: where a task stands on a person's Desk, why, and at which instant that changes next.
 * @throws CodedError with the field in which the fault stands
 */
export function answerPlace(placeCase: PlaceCase): RingAnswer {
  const { status = 'open', reviewOn, placed = true } = placeCase;
  const zone = withField('zone', () => zoneNamed(placeCase.zone ?? 'UTC'));
  const anchorZone =
    placeCase.anchorZone === undefined
      ? zone
      : withField('anchorZone', () => zoneNamed(placeCase.anchorZone!));
  const { calendar } = placeCase;
  const wall = new Wall(
    zone,
    withField('calendar', () => (calendar ? parseCalendar(calendar) : ALWAYS_OPEN))
  );
  const at = withField('at', () => parseInstant(placeCase.at));
  const dayOf = (field: 'start' | 'due') => {
    const text = placeCase[field] ?? null;
    return text === null
      ? null
      : withField(field, () => dayOfMoment(parseMoment(text, anchorZone), zone, anchorZone));
  };
  if (status === 'parked' && reviewOn === undefined)
    throw new CodedError('field-needed', { field: 'reviewOn', what: 'parked' }, 'reviewOn');
  const task: DeskTask = {
    state: status,
    reviewOn: reviewOn === undefined ? null : withField('reviewOn', () => parseDay(reviewOn)),
    start: dayOf('start'),
    due: dayOf('due'),
    placed,
    plan: readPlan(placeCase, at, wall)
  };
  const { place, reason, changesAt } = placementAt(task, at, wall);
  return {
    place,
    changesAt: changesAt === null ? null : formatInstant(changesAt),
    why: [{ ...written(reason), text: placeWords(reason, wall.todayAt(at)) }]
  };
}

/** A reason as a why step: its dates as they are written. */
function written({ code, ...params }: PlaceReason): { code: string; params: Record<string, unknown> } {
  const asWritten = Object.entries(params).map(([key, value]) => [
    key,
    typeof value === 'number' ? formatDay(value) : value
  ]);
  return { code, params: Object.fromEntries(asWritten) as Record<string, unknown> };
}

function readPlan({ movedTo, movedAt }: PlaceCase, at: InstantMs, wall: Wall): Plan | null {
  if (movedTo === undefined) return null;
  if (movedAt === undefined)
    throw new CodedError('field-needed', { field: 'movedAt', what: 'movedTo' }, 'movedAt');
  const moved = withField('movedAt', () => parseInstant(movedAt));
  if (moved > at) throw new CodedError('moved-later', { movedAt }, 'movedAt');
  return withField('movedTo', () => {
    const today = wall.todayAt(moved);
    if (movedTo === 'today') return { kind: 'today' };
    if (movedTo === 'rest' || movedTo === 'after' || movedTo === 'further')
      return planForSpan(movedTo, today, wall);
    return planForDay(parseDay(movedTo), today);
  });
}
