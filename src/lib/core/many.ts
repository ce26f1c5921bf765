/** Counts and the words that go with them: the one place that knows when English says one and when more. */

/** Of Unicode CLDR: `one` for exactly 1, `other` for the rest, zero and fractions among them. */
// eslint-disable-next-line no-restricted-globals -- of English and nothing else: the machine is asked for nothing
const RULES = new Intl.PluralRules('en');
// eslint-disable-next-line no-restricted-globals -- as above
const NUMBER = new Intl.NumberFormat('en');

/** A count and what is counted: “1 bell”, “1,635 bells”. The plural takes an s unless it is given, as for “people”. */
export function many(count: number, one: string, more = `${one}s`): string {
  return `${NUMBER.format(count)} ${agree(count, one, more)}`;
}

/** The word that goes with a count, without the count: “is” or “are”, “it” or “them”. */
export function agree(count: number, one: string, more: string): string {
  return RULES.select(count) === 'one' ? one : more;
}
