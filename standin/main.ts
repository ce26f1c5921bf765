import { parseArgs } from 'node:util';
import { startMailStandIn } from './mail.ts';

// The mail stand-in as a process of its own: `--smtp PORT --http PORT --dir FOLDER`. Says its ports when it is ready.
const { values } = parseArgs({
  options: {
    smtp: { type: 'string', default: '0' },
    http: { type: 'string', default: '0' },
    dir: { type: 'string' }
  }
});
const standIn = await startMailStandIn({
  smtpPort: Number(values.smtp),
  httpPort: Number(values.http),
  dir: values.dir
});
process.stdout.write(`${JSON.stringify({ smtpPort: standIn.smtpPort, httpPort: standIn.httpPort })}\n`);
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => void standIn.close().then(() => process.exit(0)));
// Whoever started it is gone: nothing is left to stand in for.
process.stdin.resume().once('end', () => void standIn.close().then(() => process.exit(0)));
