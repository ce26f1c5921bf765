import type { ParsedMail } from 'mailparser';
import type { Answered } from '../../core/delivery/answer.ts';

/** What is shown of an answer at most; whoever wants the rest asks its writer. */
const LONGEST_ANSWER = 4_000;
const LONGEST_NAME = 200;
/** Conversations grow; the first and the last of their ids are enough (RFC 5322 §3.6.4). */
const MOST_IDS = 40;

/** Reads what came as an answer; null for what says about no message what it is. */
export function answeredIn(mail: ParsedMail): Answered | null {
  const references = [mail.references ?? []].flat();
  const about = [...new Set([mail.inReplyTo ?? [], ...references.toReversed()].flat())].slice(0, MOST_IDS);
  if (about.length === 0) return null;
  const from = mail.from?.value[0];
  return {
    about,
    ownId: (mail.messageId ?? `${mail.date?.toISOString() ?? ''} ${mail.subject ?? ''}`).slice(0, 500),
    fromName: (from?.name ?? '').slice(0, LONGEST_NAME),
    fromAddress: (from?.address ?? '').slice(0, LONGEST_NAME),
    automatic: isAutomatic(mail),
    text: ownWords(mail.text ?? '')
  };
}

/** RFC 3834 §5; what older programs say instead is common practice, no source. */
function isAutomatic(mail: ParsedMail): boolean {
  const header = (name: string) => String(mail.headers.get(name) ?? '').toLowerCase();
  const submitted = header('auto-submitted');
  return (
    (submitted !== '' && !submitted.startsWith('no')) ||
    mail.headers.has('x-autoreply') ||
    header('precedence') === 'auto_reply'
  );
}

/** What somebody wrote, without the message that is quoted below it. */
function ownWords(text: string): string {
  const lines = text.replace(/\r\n?/g, '\n').split('\n');
  while (lines.length > 0 && /^(>.*|\s*)$/.test(lines.at(-1)!)) lines.pop();
  const own = lines.join('\n').trim();
  return own.length > LONGEST_ANSWER ? `${own.slice(0, LONGEST_ANSWER)}…` : own;
}
