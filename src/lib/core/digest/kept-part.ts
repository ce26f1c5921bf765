import { actLines, actsInline } from '../message/acts.ts';
import { escapeHtml } from '../message/escape.ts';
import type { GatheredItem } from '../message/gathered.ts';
import { partsByWhose } from '../message/whose.ts';
import { LINK, QUIET, RULED, paragraph } from './style.ts';

/** One line each: what it is, by which rule, and the one reason that decided that it comes here. */
export function keptText(kept: readonly GatheredItem[]): string {
  return partsByWhose(kept)
    .flatMap(({ heading, items }) => [
      ...(heading === null ? [] : [heading]),
      ...items.map(({ subject, link, ruleName, decided, acts }) =>
        [`• ${subject}`, `  Rule: ${ruleName}. Why: ${decided}`, link && `  ${link}`, actLines(acts, '  ')]
          .filter(Boolean)
          .join('\n')
      )
    ])
    .join('\n\n');
}

/** A table of what, rule and why; the whole why is folded, where a mail program can fold. */
export function keptHtml(kept: readonly GatheredItem[]): string {
  const cell = `padding:7px 8px 7px 0;text-align:left;vertical-align:top;${RULED}`;
  const head = ['Notice', 'Rule', 'Why']
    .map((words) => `<th style="${cell};color:${QUIET};font-weight:600">${words}</th>`)
    .join('');
  const row = ({ subject, link, ruleName, reason, decided, acts }: GatheredItem) => {
    const named = link
      ? `<a href="${escapeHtml(link)}" style="color:${LINK}">${escapeHtml(subject)}</a>`
      : escapeHtml(subject);
    return (
      `<tr><td style="${cell}">${named}${actsInline(acts)}</td><td style="${cell}">${escapeHtml(ruleName)}</td>` +
      `<td style="${cell}"><details><summary>${escapeHtml(decided)}</summary>${escapeHtml(reason)}</details></td></tr>`
    );
  };
  return partsByWhose(kept)
    .map(
      ({ heading, items }) =>
        `${heading === null ? '' : paragraph(heading)}<table style="border-collapse:collapse;width:100%;font-size:13px"><thead><tr>${head}</tr></thead>` +
        `<tbody>${items.map(row).join('')}</tbody></table>`
    )
    .join('');
}
