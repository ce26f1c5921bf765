import type { JSONContent } from '@tiptap/core';
import { FIELDS, type FieldName } from '$lib/core/message/fields.ts';

/** A merge field as it is written: its name, and what stands there without a value where that is said. */
const WRITTEN = /‹([^‹›\n]*?)(,\s*else\s+([^\s‹›][^‹›\n]*)?)?›/gu;

/** What a piece of a line is in the editor: words, or a field that is known. */
export function piecesOf(line: string): JSONContent[] {
  const pieces: JSONContent[] = [];
  let at = 0;
  for (const match of line.matchAll(WRITTEN)) {
    const name = match[1]!.trim();
    // What is no field stays as it was typed; the fault at its part says what was meant.
    if (!Object.hasOwn(FIELDS, name)) continue;
    if (match.index > at) pieces.push({ type: 'text', text: line.slice(at, match.index) });
    pieces.push({
      type: 'mergeField',
      attrs: { field: name as FieldName, fallback: match[2] === undefined ? null : (match[3] ?? '') }
    });
    at = match.index + match[0].length;
  }
  if (at < line.length) pieces.push({ type: 'text', text: line.slice(at) });
  return pieces;
}

/** Text with merge fields as a document of the editor: each line is a paragraph. */
export function documentOf(text: string): JSONContent {
  return {
    type: 'doc',
    content: text.split('\n').map((line) => ({ type: 'paragraph', content: piecesOf(line) }))
  };
}

/** How a merge field is written down: ‹due›, or ‹due, else no date yet›. */
export function written(field: string, fallback: string | null): string {
  return fallback === null ? `‹${field}›` : `‹${field}, else ${fallback}›`;
}

/** The text of a document, with its merge fields as they are written down. */
export function textOf(document: JSONContent): string {
  const inline = (node: JSONContent): string =>
    node.type === 'mergeField'
      ? written(node.attrs!.field as string, node.attrs!.fallback as string | null)
      : (node.text ?? '');
  return (document.content ?? []).map((line) => (line.content ?? []).map(inline).join('')).join('\n');
}
