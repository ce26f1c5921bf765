import type { TableColumn, TableField } from '../rule/model.ts';
import { actLines, actsInline, type ActLink } from './acts.ts';
import { escapeHtml } from './escape.ts';
import type { FieldValues } from './fields.ts';

/** Rows of a table in a message; what is more is counted. */
export const MOST_ROWS = 50;

const CAPTIONS: Record<TableField, string> = {
  task: 'Task',
  project: 'Project',
  owner: 'Owner',
  due: 'Due',
  'days left': 'When',
  start: 'Starts',
  status: 'Status',
  priority: 'Priority',
  link: 'Link'
};

export function captionOf({ field, caption }: TableColumn): string {
  return caption.trim() || CAPTIONS[field];
}

/**
 * Several tasks as a table, in text and in HTML: at most 50 rows, then the count and the link.
 * @param acts what the reader can do about each, in the order of the rows
 */
export function tableOf(
  columns: readonly TableColumn[],
  rows: readonly FieldValues[],
  acts: readonly (readonly ActLink[])[],
  listLink: string
): { text: string; html: string } {
  const shown = rows.slice(0, MOST_ROWS);
  const more = rows.length - shown.length;
  const lines = shown.map((row, at) => {
    const [first, ...rest] = columns.map(({ field }) => row[field] ?? '');
    const details = rest.filter(Boolean).join(' · ');
    const own = acts[at] ?? [];
    const doable = own.length > 0 ? `\n${actLines(own, '  ')}` : '';
    return `• ${first ?? ''}${details ? `\n  ${details}` : ''}\n  ${row.link ?? ''}${doable}`;
  });
  const cell = 'padding:6px 10px 6px 0;border-bottom:1px solid #ebe4d5;text-align:left;vertical-align:top';
  const head = columns.map(
    (column) => `<th style="${cell};color:#53626b;font-weight:600">${escapeHtml(captionOf(column))}</th>`
  );
  const body = shown.map((row, at) => {
    const cells = columns.map(({ field }, i) => {
      const words = escapeHtml(row[field] ?? '');
      const linked =
        i === 0 && row.link ? `<a href="${escapeHtml(row.link)}" style="color:#7d530e">${words}</a>` : words;
      return `<td style="${cell}">${linked}${i === 0 ? actsInline(acts[at] ?? []) : ''}</td>`;
    });
    return `<tr>${cells.join('')}</tr>`;
  });
  const rest = more > 0 ? `and ${more} more: ${listLink}` : '';
  return {
    text: [...lines, ...(rest ? [rest] : [])].join('\n\n'),
    html:
      `<table style="border-collapse:collapse;width:100%;font-size:14px;margin:0 0 14px"><thead><tr>${head.join('')}</tr></thead>` +
      `<tbody>${body.join('')}</tbody></table>` +
      (more > 0
        ? `<p style="margin:0 0 14px">and ${more} more: <a href="${escapeHtml(listLink)}" style="color:#7d530e">open the list</a></p>`
        : '')
  };
}
