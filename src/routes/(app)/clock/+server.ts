import { moveClock } from '$lib/server/workspace/move-clock.ts';
import { many } from '$lib/core/many.ts';
import { CodedError } from '$lib/core/errors.ts';
import { MS_PER_DAY, parseDay } from '$lib/core/time/day.ts';
import { instantOnWall } from '$lib/core/time/instant.ts';
import { shortMoment } from '$lib/core/time/format.ts';
import { parseTimeOfDay } from '$lib/core/time/time-of-day.ts';
import type { Zone } from '$lib/core/time/zone.ts';
import type { Container } from '$lib/server/container.ts';
import { clockSchema, type ClockRequest } from '$lib/server/workspace/clock-schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { answerJson, jsonOf, signedIn } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

/** How far ahead the next bell is looked for. */
const NEXT_BELL_DAYS = 120;

/** Moves the demo clock, or lets it run or stand still. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { zone } = signedIn(event);
    const { app } = event.locals;
    const input = readOrRefuse(clockSchema, await jsonOf(event.request));
    if (input.to === undefined) {
      app.clock.set(app.clock.now(), input.running);
      app.engine.wake();
      return { message: input.running ? 'Clock started.' : 'Clock stopped.' };
    }
    const to = target(app, input, zone);
    if (to === null) return { message: 'No bell is planned. The clock was not moved.' };
    const sent = await moveClock(app, to);
    return {
      message: `Clock moved to ${shortMoment(to, zone)}. ${many(sent, 'message')} sent.`
    };
  });

function target(app: Container, { to, date, time }: ClockRequest, zone: Zone): number | null {
  const now = app.clock.now();
  switch (to) {
    case 'next bell':
      return (
        app.forecasts.notices(now, now + NEXT_BELL_DAYS * MS_PER_DAY).find(({ unrung }) => unrung === null)
          ?.leavesAt ?? null
      );
    case 'hour':
      return now + 3_600_000;
    case 'tomorrow':
      return instantOnWall(zone.dayOf(now) + 1, 8 * 60, zone);
    default:
      if (date === null || time === null)
        throw new CodedError('bad-field', { detail: 'Give the date and time' });
      return instantOnWall(parseDay(date), parseTimeOfDay(time), zone);
  }
}
