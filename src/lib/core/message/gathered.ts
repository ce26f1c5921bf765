import { many } from '../many.ts';
import { actLines, actsInline, type ActLink } from './acts.ts';
import type { ComposedMessage } from './compose.ts';
import { escapeHtml } from './escape.ts';
import { partsByWhose, type Whose } from './whose.ts';

/** One of the notices that leave together: its subject as it would stand alone, and what led to it. */
export interface GatheredItem {
  subject: string;
  link: string;
  ruleName: string;
  reason: string;
  /** The last step of what led to it: the one that decided that it comes now, and so. */
  decided: string;
  /** Whose work it is about, as its reader sees it. */
  whose: Whose;
  /** What its reader can do about it by a press. */
  acts: readonly ActLink[];
}

/**
 * Several notices for one reader as one message, in their order.
 * @param why in words: why they come together
 */
export function composeGathered(
  readerName: string,
  items: readonly GatheredItem[],
  why: string
): ComposedMessage {
  const parts = partsByWhose(items);
  const first = parts[0]!.items[0]!.subject;
  const subject = `${many(items.length, 'notice')}: ${first} and ${items.length - 1} more`;
  const name = readerName.split(' ')[0] ?? readerName;
  const lines = parts.flatMap(({ heading, items: own }) => [
    ...(heading === null ? [] : [heading]),
    ...own.map(itemText)
  ]);
  const lists = parts
    .map(({ heading, items: own }) => {
      const title = heading === null ? '' : `<p style="margin:0 0 6px"><b>${escapeHtml(heading)}</b></p>`;
      return `${title}<ul style="margin:0 0 14px;padding:0 0 0 18px">${own.map(itemHtml).join('')}</ul>`;
    })
    .join('');
  return {
    subject,
    text: `Hello ${name},\n\n${why}\n\n${lines.join('\n\n')}\n`,
    html:
      '<!doctype html><html lang="en"><body style="margin:0;padding:24px;background:#f6f2e9;color:#1b2b33;font:15px/1.5 sans-serif">' +
      '<div style="max-width:560px;margin:0 auto;background:#fffdf8;border:1px solid #ddd4c2;border-radius:9px;padding:22px 24px">' +
      `<p style="margin:0 0 14px">Hello ${escapeHtml(name)},</p><p style="margin:0 0 14px">${escapeHtml(why)}</p>` +
      `${lists}</div></body></html>`
  };
}

function itemText({ subject, link, ruleName, reason, acts }: GatheredItem): string {
  const doable = acts.length > 0 ? `${actLines(acts, '  ')}\n` : '';
  return `• ${subject}\n  ${link}\n${doable}  Sent by the rule “${ruleName}”. ${reason}`;
}

function itemHtml({ subject, link, ruleName, reason, acts }: GatheredItem): string {
  return (
    `<li style="margin:0 0 12px"><a href="${escapeHtml(link)}" style="color:#7d530e">${escapeHtml(subject)}</a>` +
    `${actsInline(acts)}<br><span style="color:#53626b;font-size:13px">Sent by the rule “${escapeHtml(ruleName)}”. ${escapeHtml(reason)}</span></li>`
  );
}
