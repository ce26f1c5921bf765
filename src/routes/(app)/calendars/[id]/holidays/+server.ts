import { CodedError } from '$lib/core/errors.ts';
import { holidaysSchema } from '$lib/server/calendar/schema.ts';
import { readOrRefuse } from '$lib/server/input/fields.ts';
import { decodeText } from '$lib/server/in-out/read/decode.ts';
import { answerJson, jsonOf } from '$lib/server/web/web.ts';
import type { RequestHandler } from './$types';

const MOST_BYTES = 4 * 2 ** 20;

/** Days for a calendar that is being edited: of the bundled set (JSON), the parts of a country, or of an ICS file. Changes nothing. */
export const POST: RequestHandler = (event) =>
  answerJson(async () => {
    const { app } = event.locals;
    const { searchParams } = event.url;
    const country = searchParams.get('country');
    if (country !== null) return { regions: app.calendars.regionsOf(country.slice(0, 2)) };
    if (event.request.headers.get('content-type')?.startsWith('application/json')) {
      const input = readOrRefuse(holidaysSchema, await jsonOf(event.request));
      const { region, fromYear, toYear } = input;
      return { days: app.calendars.publicHolidays(region, fromYear, toYear), left: 0, weeks: null };
    }
    const bytes = new Uint8Array(await event.request.arrayBuffer());
    if (bytes.length > MOST_BYTES) throw new CodedError('import-too-large', { most: '4 MB' });
    if (bytes.length === 0) throw new CodedError('import-empty');
    const year = Number(searchParams.get('year'));
    if (!Number.isInteger(year) || year < 1950 || year > 2140)
      throw new CodedError('bad-field', { detail: 'The year is missing' });
    return await app.files.calendar(decodeText(bytes).text, year - 1, year + 5);
  });
