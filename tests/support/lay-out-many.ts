// Lays out a workspace of very many tasks in a folder, for the browser tests: `lay-out-many.ts FOLDER MOMENT TASKS`.
import { createContainer } from '../../src/lib/server/container.ts';
import { fillWorkspace } from '../../scripts/many-tasks.ts';

const [dataDir = '', at = '', tasks = ''] = process.argv.slice(2);
const container = createContainer({
  dataDir,
  demo: true,
  startAtMs: Date.parse(at),
  mail: { host: '127.0.0.1', port: 1 },
  origin: 'http://many.example',
  logLevel: 'silent'
});
container.clock.set(Date.parse(at), false);
fillWorkspace(container, { tasks: Number(tasks), people: 200, projects: 40 });
await container.stop();
