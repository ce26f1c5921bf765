import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { wordsOfDocument, wordsOfScript, wordsOfSvelte, type Visible } from './visible-words.ts';

/** Where what somebody can see is written. */
const PLACES = ['src', 'demo', 'standin', 'docs', 'README.md'];

/** Files that hold visible words. @param asked paths that they are below; none: everywhere */
export function visibleFiles(asked: readonly string[] = []): string[] {
  return execFileSync('git', ['ls-files', ...(asked.length > 0 ? asked : PLACES)], { encoding: 'utf8' })
    .split('\n')
    .filter((file) => /\.(svelte|ts|md)$/.test(file) && !/\.test\.ts$/.test(file));
}

/** What somebody can see of a file, with the lines. */
export function wordsOf(file: string): Visible[] {
  const source = readFileSync(file, 'utf8');
  if (file.endsWith('.svelte')) return wordsOfSvelte(source);
  if (file.endsWith('.md')) return wordsOfDocument(source);
  return wordsOfScript(source);
}
