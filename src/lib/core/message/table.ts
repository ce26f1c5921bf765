import type { TableColumn, TableField } from '../rule/step-model.ts';
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

/** Of others’ work one must know whose it is. */
export function withOwner(columns: readonly TableColumn[]): readonly TableColumn[] {
  if (columns.some(({ field }) => field === 'owner')) return columns;
  const [first, ...rest] = columns;
  return [...(first ? [first] : []), { field: 'owner', caption: '' }, ...rest];
}

/** Tasks that stand together in a table, under a heading of their own. */
export interface TablePart {
  heading: string | null;
  columns: readonly TableColumn[];
  rows: readonly FieldValues[];
  /** What the reader can do about each, in the order of the rows. */
  acts: readonly (readonly ActLink[])[];
}

/** Several tasks as a table, in text and in HTML: at most 50 rows in all its parts, then the count and the link. */
export function tableOf(parts: readonly TablePart[], listLink: string): { text: string; html: string } {
  const all = parts.reduce((sum, { rows }) => sum + rows.length, 0);
  const more = Math.max(0, all - MOST_ROWS);
  const shown = firstRows(parts);
  const rest = more > 0 ? `and ${more} more: ${listLink}` : '';
  return {
    text: [...shown.flatMap(partText), ...(rest ? [rest] : [])].join('\n\n'),
    html:
      shown.map(partHtml).join('') +
      (more > 0
        ? `<p style="margin:0 0 14px">and ${more} more: <a href="${escapeHtml(listLink)}" style="color:#7d530e">open the list</a></p>`
        : '')
  };
}

/** The parts with the rows that are shown; a part of which none is shown is left out. */
function firstRows(parts: readonly TablePart[]): TablePart[] {
  let left = MOST_ROWS;
  return parts.flatMap((part) => {
    const rows = part.rows.slice(0, left);
    left -= rows.length;
    return rows.length > 0 ? [{ ...part, rows }] : [];
  });
}

function partText({ heading, columns, rows, acts }: TablePart): string[] {
  const lines = rows.map((row, at) => {
    const [first, ...rest] = columns.map(({ field }) => row[field] ?? '');
    const details = rest.filter(Boolean).join(' · ');
    const own = acts[at] ?? [];
    const doable = own.length > 0 ? `\n${actLines(own, '  ')}` : '';
    return `• ${first ?? ''}${details ? `\n  ${details}` : ''}\n  ${row.link ?? ''}${doable}`;
  });
  return [...(heading === null ? [] : [heading]), ...lines];
}

function partHtml({ heading, columns, rows, acts }: TablePart): string {
  const cell = 'padding:6px 10px 6px 0;border-bottom:1px solid #ebe4d5;text-align:left;vertical-align:top';
  const head = columns.map(
    (column) => `<th style="${cell};color:#53626b;font-weight:600">${escapeHtml(captionOf(column))}</th>`
  );
  const body = rows.map((row, at) => {
    const cells = columns.map(({ field }, i) => {
      const words = escapeHtml(row[field] ?? '');
      const linked =
        i === 0 && row.link ? `<a href="${escapeHtml(row.link)}" style="color:#7d530e">${words}</a>` : words;
      return `<td style="${cell}">${linked}${i === 0 ? actsInline(acts[at] ?? []) : ''}</td>`;
    });
    return `<tr>${cells.join('')}</tr>`;
  });
  const title =
    heading === null ? '' : `<h2 style="margin:16px 0 2px;font-size:15px">${escapeHtml(heading)}</h2>`;
  return (
    `${title}<table style="border-collapse:collapse;width:100%;font-size:14px;margin:0 0 14px"><thead><tr>${head.join('')}</tr></thead>` +
    `<tbody>${body.join('')}</tbody></table>`
  );
}
