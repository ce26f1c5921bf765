/**
 * A length of time as people write it, in minutes: `1:30`, `1h 30`, `1.5h`, `90`, `90 min`.
 * @returns NaN for what is none
 */
export function minutesOf(text: string): number {
  const plain = text.trim().toLowerCase().replace(',', '.');
  const clock = /^(\d{1,4}):(\d{2})$/.exec(plain);
  if (clock && Number(clock[2]) < 60) return Number(clock[1]) * 60 + Number(clock[2]);
  const hours = /^(\d+(?:\.\d+)?)\s*(?:h|hours?)(?:\s*(\d{1,2})\s*(?:m|min|minutes?)?)?$/.exec(plain);
  if (hours) return Math.round(Number(hours[1]) * 60) + Number(hours[2] ?? 0);
  const minutes = /^(\d{1,6})\s*(?:m|min|minutes?)?$/.exec(plain);
  return minutes ? Number(minutes[1]) : NaN;
}
