// A thread for what takes long: acts on very many tasks are looked at, files are read and imports prepared in it, while everybody else goes on.
import { parentPort, workerData } from 'node:worker_threads';
import { CodedError } from '../../core/errors.ts';
import { doJob, type Port } from './do-job.ts';
import { Reader } from './reader.ts';
import { TAKEN, type Question, type Said, type Told } from './talk.ts';

const told = workerData as Told;
const say = (said: Said) => parentPort!.postMessage(said);
let taken = () => {};

const port: Port = {
  told,
  reader: new Reader(told),
  sayPart: (part) => say({ part }),
  sayRows: (rows) => {
    say({ rows });
    return new Promise((resolve) => (taken = resolve));
  }
};

parentPort!.on('message', (message: Question | typeof TAKEN) => {
  if (message === TAKEN) taken();
  else void answer(message);
});

async function answer(question: Question): Promise<void> {
  try {
    say({ answer: await doJob(question, port) });
  } catch (error) {
    if (error instanceof CodedError) {
      const { code, params, field } = error;
      say({ refused: { code, params, field } });
    } else say({ failed: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
}
