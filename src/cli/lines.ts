import { createReadStream } from 'node:fs';
import { createInterface } from 'node:readline';
import { CodedError } from '../lib/core/errors.ts';

/**
 * Answers a file, or standard input, line by line: one JSON case in, one result out. A faulty line answers its own error and the
 * rest goes on.
 * @param name of the command, for what is said on standard error
 * @returns the exit code: 0 when every line was answered, 1 when one or more were faulty, 2 when there is nothing to read
 */
export async function answerLines(
  name: string,
  [file, ...more]: readonly string[],
  answer: (line: string) => Record<string, unknown>
): Promise<number> {
  if (more.length > 0) {
    process.stderr.write(`bell ${name}: give one file, or none to read standard input.\n`);
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
      const result = orError(next.value.replace(/^\uFEFF/, ''), answer);
      if ('error' in result) faulty++;
      if (!process.stdout.write(`${JSON.stringify(result)}\n`)) {
        await new Promise((resolve) => process.stdout.once('drain', resolve));
      }
    }
  } catch (error) {
    process.stderr.write(`bell ${name}: ${error instanceof Error ? error.message : String(error)}\n`);
    return 2;
  }
  return faulty > 0 ? 1 : 0;
}

/** The answer to one line: a result, or `{id, error, code, field}`. */
function orError(line: string, answer: (line: string) => Record<string, unknown>): Record<string, unknown> {
  try {
    return answer(line);
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
