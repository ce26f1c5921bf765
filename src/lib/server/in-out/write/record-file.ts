import { writeTable } from './message-files.ts';

/** Rows that are written at once. */
const AT_ONCE = 500;

/** The files that a record is given out as: a table (RFC 4180), or a JSON object for each line. */
export const RECORD_FILES = ['csv', 'jsonl'] as const;
export type RecordFile = (typeof RECORD_FILES)[number];

/**
 * Rows of cells as a file that is written while it is sent, so that a long record needs no room of its own.
 * @param rows the captions first
 */
export function recordFile(rows: Generator<string[]>, format: RecordFile, name: string): Response {
  const encoder = new TextEncoder();
  const captions = rows.next().value as string[];
  const write = (some: string[][]) =>
    format === 'csv'
      ? writeTable(some)
      : some
          .map((row) => `${JSON.stringify(Object.fromEntries(row.map((cell, i) => [captions[i], cell])))}\n`)
          .join('');
  let isFirst = true;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      const some: string[][] = isFirst && format === 'csv' ? [captions] : [];
      isFirst = false;
      while (some.length < AT_ONCE) {
        const { value, done } = rows.next();
        if (done) {
          if (some.length > 0) controller.enqueue(encoder.encode(write(some)));
          controller.close();
          return;
        }
        some.push(value);
      }
      controller.enqueue(encoder.encode(write(some)));
    }
  });
  const type = format === 'csv' ? 'text/csv' : 'application/jsonl';
  return new Response(body, {
    headers: {
      'content-type': `${type}; charset=utf-8`,
      'content-disposition': `attachment; filename="${name}.${format}"`
    }
  });
}
