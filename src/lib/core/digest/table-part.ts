import { actLines, actsInline } from '../message/acts.ts';
import { escapeHtml } from '../message/escape.ts';
import { captionOf } from '../message/table.ts';
import { LINK, QUIET, RULED, heading, moreRows, title } from './style.ts';
import type { SectionWords } from './section-part.ts';
import { valueOf, type WrittenRow, type WrittenSection } from './written.ts';

const CELL = `padding:6px 10px 6px 0;text-align:left;vertical-align:top;${RULED}`;

/** Rows that stand under one heading; null where a table has no groups. */
interface Part {
  heading: string | null;
  /** How many there are; some may not be shown. */
  count: number;
  rows: readonly WrittenRow[];
}

/** Everything of a section as one table with its columns, under the headings of its groups; in text a line of each, as anywhere. */
export function tablePart(section: WrittenSection, words: SectionWords): { text: string; html: string } {
  const { rows, count } = section;
  const parts = partsOf(section);
  const more = moreRows(count - rows.length, words.listLink);
  const head = words.columns
    .map(
      (column) => `<th style="${CELL};color:${QUIET};font-weight:600">${escapeHtml(captionOf(column))}</th>`
    )
    .join('');
  return {
    text:
      [heading(words.title, count), ...parts.map((part) => partText(part, words))].join('\n\n') + more.text,
    html:
      `${title(words.title, count)}<table style="border-collapse:collapse;width:100%;font-size:13px"><thead><tr>${head}</tr></thead>` +
      `<tbody>${parts.map((part) => partHtml(part, words)).join('')}</tbody></table>${more.html}`
  };
}

/** Only groups of which a row is shown. */
function partsOf({ rows, count, groups }: WrittenSection): Part[] {
  if (groups.length === 0) return [{ heading: null, count, rows }];
  return groups
    .filter(({ from }) => from < rows.length)
    .map((group) => ({ ...group, rows: rows.slice(group.from, group.from + group.count) }));
}

function partText({ heading: of, count, rows }: Part, { columns }: SectionWords): string {
  const lines = rows.map((row) => {
    const [first = '', ...rest] = columns.map(({ field }) => valueOf(field, row));
    const { link, acts } = row.facts;
    const details = rest.filter(Boolean).join(' · ');
    return [
      `• ${first || valueOf('task', row)}`,
      details && `  ${details}`,
      link && `  ${link}`,
      acts.length > 0 && actLines(acts, '  ')
    ]
      .filter(Boolean)
      .join('\n');
  });
  return [...(of === null ? [] : [`${of} (${count})`]), ...lines].join('\n\n');
}

function partHtml({ heading: of, count, rows }: Part, { columns }: SectionWords): string {
  const above =
    of === null
      ? ''
      : `<tr><th colspan="${columns.length}" scope="rowgroup" style="padding:12px 0 4px;text-align:left">${escapeHtml(of)} ` +
        `<span style="color:${QUIET};font-weight:400">${count}</span></th></tr>`;
  return above + rows.map((row) => rowHtml(row, columns)).join('');
}

function rowHtml(row: WrittenRow, columns: SectionWords['columns']): string {
  const { link, acts } = row.facts;
  const cells = columns.map(({ field }, i) => {
    const words = escapeHtml(valueOf(field, row));
    if (i > 0) return `<td style="${CELL}">${words}</td>`;
    const named = link ? `<a href="${escapeHtml(link)}" style="color:${LINK}">${words}</a>` : words;
    return `<td style="${CELL}">${named}${actsInline(acts)}</td>`;
  });
  return `<tr>${cells.join('')}</tr>`;
}
