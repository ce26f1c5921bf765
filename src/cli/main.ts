import { answerCase } from '../lib/core/ringtime/answer.ts';
import { expandCase } from '../lib/core/ringtime/expand.ts';
import { readExpandCase, readRingCase } from '../lib/server/ringtime/schema.ts';
import { answerLines } from './lines.ts';

const COMMANDS: Record<string, (args: string[]) => Promise<number>> = {
  ringtime: (args) => answerLines('ringtime', args, (line) => answerCase(readRingCase(line))),
  expand: (args) => answerLines('expand', args, (line) => expandCase(readExpandCase(line)))
};

const USAGE = `Usage: npm run -s bell -- COMMAND

  ringtime [FILE]   one JSON case a line, from FILE or standard input, to its ring times, one result a line
  expand [FILE]     one recurrence rule a line, to its occurrences, one result a line
`;

const [command = '', ...args] = process.argv.slice(2);
const run = COMMANDS[command];
if (!run) {
  process.stderr.write(command ? `bell: there is no command “${command}”.\n\n${USAGE}` : USAGE);
  process.exitCode = 2;
} else {
  process.exitCode = await run(args);
}
