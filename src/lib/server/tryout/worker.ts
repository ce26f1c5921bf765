// A thread in which an act on very many tasks is tried out on a copy of the workspace, while everybody else goes on.
import Database from 'better-sqlite3';
import { parentPort, workerData } from 'node:worker_threads';
import { CodedError } from '../../core/errors.ts';
import { openCopy } from '../db/open.ts';
import { openAside } from './aside.ts';
import { lookAt } from './asked.ts';
import type { Question, Said, Told } from './talk.ts';

const { file, options } = workerData as Told;
const say = (said: Said) => parentPort!.postMessage(said);

parentPort!.on('message', ({ personId, asked, at }: Question) => {
  try {
    const copy = copyOf(file);
    try {
      const app = openAside(copy, options, at);
      app.effects.attach((part) => say({ part }));
      say({ answer: lookAt(app, personId, asked) });
    } finally {
      copy.close();
    }
  } catch (error) {
    if (error instanceof CodedError) {
      const { code, params, field } = error;
      say({ refused: { code, params, field } });
    } else say({ failed: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
});

/** Whoever reads keeps nobody from writing. */
function copyOf(path: string) {
  const source = new Database(path, { readonly: true });
  try {
    return openCopy(source);
  } finally {
    source.close();
  }
}
