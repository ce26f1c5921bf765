import { withoutTail } from './without-tail.ts';
/** A time of day as somebody typed it. */
export interface TypedTime {
  /** `HH:MM`, the likeliest first; more than one must be asked. */
  choices: string[];
  /** What is left of the text without it. */
  rest: string;
  /** Whether the words say that it is a time, and not some other number. */
  sure: boolean;
}

const CLOCK = String.raw`(\d{1,2})(?:[:.h](\d{2}))?\s*(am|pm|a\.m\.|p\.m\.)|(\d{1,2})[:h](\d{2})|(noon|midday|midnight)|at (\d{1,2})(?:\s*o.?clock)?|(\d{1,2}) ?o.?clock`;
const AT_END = new RegExp(String.raw`(?:^|[\s,])(?:at\s+|by\s+)?(?:${CLOCK})$`, 'i');
const AT_START = new RegExp(String.raw`^(?:at\s+)?(?:${CLOCK})(?:\s+|$)`, 'i');

/**
 * Reads a time at the end of a text, or at its beginning.
 * @returns null when there is none
 * @example readTypedTime('fri at 3') // 15:00 or 03:00, which must be asked
 */
export function readTypedTime(text: string): TypedTime | null {
  const match = AT_END.exec(text) ?? AT_START.exec(text);
  if (!match) return null;
  const choices = timesOf(match);
  if (choices.length === 0) return null;
  const rest = (text.slice(0, match.index) + text.slice(match.index + match[0].length)).trim();
  return { choices, rest: withoutTail(rest), sure: true };
}

function timesOf(match: RegExpExecArray): string[] {
  const [, hour12, minute12, half, hour24, minute24, word, bareAt, bareClock] = match;
  if (word) return [/midnight/i.test(word) ? '00:00' : '12:00'];
  if (half) {
    const hour = Number(hour12);
    if (hour < 1 || hour > 12) return [];
    return written((hour % 12) + (/^p/i.test(half) ? 12 : 0), minute12);
  }
  if (hour24 !== undefined) return written(Number(hour24), minute24);
  const hour = Number(bareAt ?? bareClock);
  // From seven to noon people mean the morning, from thirteen on there is one reading; between, either half of the day.
  if (hour >= 1 && hour <= 6) return [...written(hour + 12, '00'), ...written(hour, '00')];
  return written(hour, '00');
}

function written(hour: number, minute: string | undefined): string[] {
  const minutes = Number(minute ?? '0');
  if (hour > 23 || minutes > 59) return [];
  return [`${String(hour).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`];
}
