// Lists every sentence, label and word that somebody can see, with its place: `npm run words`, or `npm run words -- src/lib/ui` for some of them.
// It is read through whole when words are changed, and new ones are read in every change.
import { visibleFiles, wordsOf } from './visible-files.ts';

const files = visibleFiles(process.argv.slice(2));
const lines = files.flatMap((file) => wordsOf(file).map(({ line, words }) => `${file}:${line}\t${words}\n`));
// Whoever reads the first of them only closes the pipe.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error;
});
process.stdout.write(lines.join(''));
process.stderr.write(`${lines.length} in ${files.length} files\n`);
