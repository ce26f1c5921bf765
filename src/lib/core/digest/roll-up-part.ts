import { escapeHtml } from '../message/escape.ts';
import { BANDS } from '../ring/overdue.ts';
import type { RollUp, RollUpLine } from './roll-up.ts';
import { QUIET, RULED } from './style.ts';

/** Each person in numbers, and all together. */
export function rollUpText({ lines, total }: RollUp): string {
  return [...lines, total]
    .map((line) =>
      [`• ${line.name}: ${inNumbers(line)}`, ...bandLine(line).map((words) => `  ${words}`)].join('\n')
    )
    .join('\n');
}

function inNumbers(line: RollUpLine): string {
  const { open, overdue, dueToday } = line;
  return [`${overdue} overdue${changeWords(line)}`, `${dueToday} due today`, `${open} open`].join(', ');
}

/** “ (2 more than last time)”; nothing where there is nothing to compare with. */
export function changeWords({ change }: Pick<RollUpLine, 'change'>): string {
  if (change === null) return '';
  if (change === 0) return ' (same as last time)';
  return ` (${Math.abs(change)} ${change > 0 ? 'more' : 'fewer'} than last time)`;
}

/** Of what is overdue how much in which band: “overdue by under 1 working day: 1, 1–2 working days: 2”. */
function bandLine({ byBand, overdue }: RollUpLine): string[] {
  if (overdue === 0) return [];
  const parts = byBand.flatMap((n, band) =>
    n > 0 ? `${BANDS[band]} working ${band === 0 ? 'day' : 'days'}: ${n}` : []
  );
  return [`overdue by ${parts.join(', ')}`];
}

/** Four narrow columns, and the bands in a line of their own: it fits a phone. */
export function rollUpHtml({ lines, total }: RollUp): string {
  const cell = 'padding:7px 8px 0 0;text-align:left;vertical-align:top';
  const number = 'padding:7px 0 0 8px;text-align:right;vertical-align:top';
  const row = (line: RollUpLine) => {
    const bands = [
      bandLine(line).join(''),
      changeWords(line)
        .trim()
        .replace(/^\(|\)$/g, '')
    ].filter(Boolean);
    const strong = line === total ? ';font-weight:600' : '';
    return (
      `<tr><td style="${cell}${strong}">${escapeHtml(line.name)}</td><td style="${number}${strong}">${line.overdue}</td>` +
      `<td style="${number}${strong}">${line.dueToday}</td><td style="${number}${strong}">${line.open}</td></tr>` +
      `<tr><td colspan="4" style="padding:0 0 7px;${RULED};color:${QUIET};font-size:13px">${escapeHtml(bands.join(' · '))}</td></tr>`
    );
  };
  const head = ['Overdue', 'Today', 'Open'].map(
    (words) => `<th style="${number};color:${QUIET};font-weight:600">${words}</th>`
  );
  return (
    `<table style="border-collapse:collapse;width:100%;font-size:14px;margin:0 0 14px"><thead><tr><th style="${cell};color:${QUIET};font-weight:600">Who</th>${head.join('')}</tr></thead>` +
    `<tbody>${[...lines, total].map(row).join('')}</tbody></table>`
  );
}
