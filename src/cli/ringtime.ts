import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { CodedError } from '../lib/core/errors.ts';
import { answerCase } from '../lib/core/ring/case.ts';
import { readRingCase } from '../lib/server/schema/ringtime.ts';

/**
 * `bell ringtime`: one JSON case a line in, one result a line out. A faulty line answers its own error and the rest
 * goes on.
 * @returns the exit code: 0 when every line was answered, 1 when one or more were faulty, 2 when there is nothing to read
 */
export async function ringtime([file, ...more]: string[]): Promise<number> {
  if (more.length > 0) {
    process.stderr.write('bell ringtime: give one file, or none to read standard input.\n');
    return 2;
  }
  const input = file && file !== '-' ? createReadStream(file) : process.stdin;
  let faulty = 0;
  try {
    // An error of the file itself must reach us: readline would swallow it.
    const failed = new Promise<never>((_, reject) => input.once('error', reject));
    const lines = createInterface({ input, crlfDelay: Infinity })[Symbol.asyncIterator]();
    for (;;) {
      const next = await Promise.race([lines.next(), failed]);
      if (next.done) break;
      if (next.value.trim() === '') continue;
      const answer = answerLine(next.value);
      if ('error' in answer) faulty++;
      if (!process.stdout.write(`${JSON.stringify(answer)}\n`)) {
        await new Promise((resolve) => process.stdout.once('drain', resolve));
      }
    }
  } catch (error) {
    process.stderr.write(`bell ringtime: ${error instanceof Error ? error.message : String(error)}\n`);
    return 2;
  }
  return faulty > 0 ? 1 : 0;
}

/** The answer to one line: a result, or `{id, error, code, field}`. */
export function answerLine(line: string): Record<string, unknown> {
  try {
    return answerCase(readRingCase(line.replace(/^\uFEFF/, '')));
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    const id = idOf(line);
    return {
      ...(id === undefined ? {} : { id }),
      error: error.message,
      code: error.code,
      ...(error.field === undefined ? {} : { field: error.field })
    };
  }
}

function idOf(line: string): unknown {
  try {
    return (JSON.parse(line) as { id?: unknown } | null)?.id;
  } catch {
    // The line is no JSON: the error says so, and there is no id to repeat.
    return undefined;
  }
}
