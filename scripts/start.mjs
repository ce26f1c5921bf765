// `npm start`: the application with its own data and a real mail server. docs/operations.md lists the environment it reads.
import { endWith, isFree, startServer } from './serve.mjs';
import { ensurePackagesAndBuild } from './setup.mjs';

async function start() {
  const port = Number(process.env.PORT ?? 3000);
  await ensurePackagesAndBuild();
  if (!(await isFree(port))) throw new Error(`Port ${port} is in use. Choose another with PORT=${port + 1}.`);
  const { ORIGIN, HOST } = process.env;
  const env = { ...(ORIGIN ? { ORIGIN } : {}), ...(HOST ? { HOST } : {}) };
  const { child, origin } = await startServer({ port, env });
  endWith([child]);
  process.stdout.write(`Early Bell is open at ${origin}\n`);
}

start().catch((error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
