/** A letter of a script that is written from right to left: Hebrew, Arabic and their relatives, with their presentation forms. */
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/u;

/**
 * A name inside a sentence of ours: one that is written from right to left is set apart (FSI … PDI of Unicode UAX #9), so that the marks and
 * numbers after it stay where they are. Other names stay as they are.
 */
export function isolated(name: string): string {
  return RIGHT_TO_LEFT.test(name) ? `\u2068${name}\u2069` : name;
}
