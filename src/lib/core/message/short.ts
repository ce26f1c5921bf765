/** What a text message holds at most, in UTF-16 units: three parts of one as telephones send them (3GPP TS 23.040 §9.2.3.24.1, 67 units of UCS-2 each). */
const LONGEST_TEXT = 3 * 67;
/** What stands in the place of words that did not fit. */
const CUT = '…';

/**
 * A message as a telephone shows it: what it is about, and where it leads.
 * @param link empty where it leads nowhere
 */
export function shortText(subject: string, link: string): string {
  const end = link === '' ? '' : ` ${link}`;
  const room = LONGEST_TEXT - end.length;
  // A link alone is longer than a message may be: cut it would lead nowhere, so it is left whole.
  const words = subject.length <= room ? subject : cutAt(subject, Math.max(40, room - CUT.length)) + CUT;
  return words + end;
}

/** Not within a pair of surrogates: half a letter is none. */
function cutAt(text: string, length: number): string {
  const before = text.charCodeAt(length - 1);
  return text.slice(0, before >= 0xd800 && before <= 0xdbff ? length - 1 : length).trimEnd();
}
