import type { ComposedMessage } from './compose.ts';
import { escapeHtml } from './escape.ts';

/**
 * A message as somebody other than its reader gets it to look at: a note above it says so, in its text and its HTML, and its subject begins
 * with a word of its own.
 * @param lead the word before the subject, such as “Tried”
 * @param note sentences above the message
 */
export function asCopy(message: ComposedMessage, lead: string, note: string): ComposedMessage {
  const above = `<p style="max-width:560px;margin:0 auto 14px;padding:10px 14px;border:1px dashed #7d530e;border-radius:9px">${escapeHtml(note)}</p>`;
  return {
    subject: `${lead}: ${message.subject}`,
    text: `${note}\n\n${message.text}`,
    // A function: a dollar sign in the note is no pattern.
    html: message.html.replace(/<body[^>]*>/, (body) => body + above)
  };
}
