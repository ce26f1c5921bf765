// Lists every sentence, label and word that somebody can see, with its place: `npm run words`, or `npm run words -- src/lib/ui` for some of them.
// It is read through whole when words are changed, and new ones are read in every change.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { wordsOfDocument, wordsOfScript, wordsOfSvelte, type Visible } from './visible-words.ts';

const PLACES = ['src', 'demo', 'standin', 'docs', 'README.md'];

function wordsOf(file: string): Visible[] {
  const source = readFileSync(file, 'utf8');
  if (file.endsWith('.svelte')) return wordsOfSvelte(source);
  if (file.endsWith('.md')) return wordsOfDocument(source);
  return wordsOfScript(source);
}

const asked = process.argv.slice(2);
const files = execFileSync('git', ['ls-files', ...(asked.length > 0 ? asked : PLACES)], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /\.(svelte|ts|md)$/.test(file) && !/\.test\.ts$/.test(file));
let count = 0;
for (const file of files)
  for (const { line, words } of wordsOf(file)) {
    count++;
    process.stdout.write(`${file}:${line}\t${words}\n`);
  }
process.stderr.write(`${count} in ${files.length} files\n`);
