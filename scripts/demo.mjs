// `npm run demo`: sets the machine up where needed, lays the demo workspace out, and starts it.
//   -- --port N    the port of the application (3000)
//   -- --at T      the moment of the demo, 2026-03-05T07:40Z unless given
//   -- --data DIR  where it is kept
import { resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { dataPath, endWith, isFree, layOutDemo, standInEnv, startServer, startStandIn } from './serve.mjs';
import { ensurePackagesAndBuild, say } from './setup.mjs';

const MOMENT = '2026-03-05T07:40Z';
const MOMENT_FORM = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2})?(Z|[+-]\d{2}:\d{2})$/;

async function demo() {
  const { values } = parseArgs({
    options: { port: { type: 'string' }, at: { type: 'string' }, data: { type: 'string' } }
  });
  const port = Number(values.port ?? 3000);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Error(`“${values.port}” is not a port. Give a number from 1 to 65535.`);
  const at = values.at ?? MOMENT;
  if (!MOMENT_FORM.test(at) || Number.isNaN(Date.parse(at)))
    throw new Error(`“${at}” is not a moment. Write it like ${MOMENT}.`);
  if (!(await isFree(port)))
    throw new Error(
      `Port ${port} is in use. Stop what listens there, or choose another: npm run demo -- --port ${port + 1}`
    );
  // A demo around another moment is another workspace.
  const data = values.data
    ? resolve(values.data)
    : dataPath(values.at ? `demo-${at.replace(/[^0-9TZ]/g, '')}` : 'demo');

  await ensurePackagesAndBuild();
  say('Opening the demo workspace…');
  const standIn = await startStandIn(`${data}/stand-ins`);
  const origin = `http://localhost:${port}`;
  await layOutDemo({ data, at, standIn, origin });
  const env = {
    EARLY_BELL_DATA: data,
    EARLY_BELL_DEMO: '1',
    EARLY_BELL_AT: at,
    ...standInEnv(standIn),
    EARLY_BELL_LOG: 'warn'
  };
  const server = await startServer({ port, env });
  endWith([server.child, standIn.child]);
  say(`\nEarly Bell is open at ${server.origin}\nPress Ctrl+C to close it. Its data stays in ${data}`);
}

demo().catch((error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
