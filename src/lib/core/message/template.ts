import { CodedError } from '../errors.ts';
import { nearest } from '../nearest.ts';
import { FIELDS, FIELD_NAMES, type FieldName, type FieldValues } from './fields.ts';

/** A piece of a message: plain words, or a merge field with what stands there when it has no value. */
export type Piece = string | { field: FieldName; fallback: string };

/**
 * Reads text with merge fields written ‹like this›, or ‹like this, else other words›.
 * @throws CodedError `field-unknown` (with the nearest names) or `field-unclosed`
 * @example parseTemplate('‹task› is ‹days left›') // [{field: 'task', …}, ' is ', {field: 'days left', …}]
 */
export function parseTemplate(text: string): Piece[] {
  const pieces: Piece[] = [];
  let at = 0;
  while (at < text.length) {
    const open = text.indexOf('‹', at);
    if (open < 0) {
      pieces.push(text.slice(at));
      break;
    }
    if (open > at) pieces.push(text.slice(at, open));
    const close = text.indexOf('›', open);
    if (close < 0) throw new CodedError('field-unclosed', { near: text.slice(open, open + 20) });
    pieces.push(readField(text.slice(open + 1, close)));
    at = close + 1;
  }
  return pieces;
}

function readField(inside: string): Piece {
  const [rawName = '', ...rest] = inside.split(/,\s*else\s+/);
  const name = rawName.trim();
  if (!(name in FIELDS)) {
    const names = nearest(name, FIELD_NAMES);
    const hint =
      names.length > 0
        ? ` Did you mean ${names.map((near) => `‹${near}›`).join(' or ')}?`
        : ` There are ${FIELD_NAMES.map((known) => `‹${known}›`).join(', ')}.`;
    throw new CodedError('field-unknown', { name, nearest: hint });
  }
  const field = name as FieldName;
  return { field, fallback: rest.length > 0 ? rest.join(', else ') : FIELDS[field].fallback };
}

/** Puts values into a template. */
export function fillTemplate(pieces: readonly Piece[], values: FieldValues): string {
  return pieces
    .map((piece) => (typeof piece === 'string' ? piece : values[piece.field] || piece.fallback))
    .join('');
}
