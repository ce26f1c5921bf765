import { ringtime } from './ringtime.ts';

const COMMANDS: Record<string, (args: string[]) => Promise<number>> = { ringtime };

const USAGE = `Usage: npm run -s bell -- COMMAND

  ringtime [FILE]   one JSON case a line, from FILE or standard input, to one result a line
`;

const [command = '', ...args] = process.argv.slice(2);
const run = COMMANDS[command];
if (!run) {
  process.stderr.write(command ? `bell: there is no command “${command}”.\n\n${USAGE}` : USAGE);
  process.exitCode = 2;
} else {
  process.exitCode = await run(args);
}
