import { randomBytes } from 'node:crypto';
import { parseArgs } from 'node:util';
import { startChatStandIn } from './chat.ts';
import { startMailStandIn } from './mail.ts';
import { startTextStandIn } from './text.ts';

// The mail, text and chat stand-ins in a process of their own: `--smtp PORT --http PORT --text PORT --chat PORT --dir FOLDER --returns PORT --token TEXT --key TEXT`. Says where
// they are, and what lets somebody in, when they are ready.
const { values } = parseArgs({
  options: {
    smtp: { type: 'string', default: '0' },
    http: { type: 'string', default: '0' },
    text: { type: 'string', default: '0' },
    chat: { type: 'string', default: '0' },
    dir: { type: 'string' },
    returns: { type: 'string' },
    token: { type: 'string' },
    key: { type: 'string' }
  }
});
const { dir } = values;
const kept = dir ? { dir } : {};
// What lets somebody in, unless it is given, so that it stays the same from one start to the next.
const { token = randomBytes(12).toString('hex'), key = randomBytes(12).toString('hex') } = values;
const [mail, text, chat] = await Promise.all([
  startMailStandIn({
    smtpPort: Number(values.smtp),
    httpPort: Number(values.http),
    ...kept,
    ...(values.returns ? { returnPort: Number(values.returns) } : {})
  }),
  startTextStandIn({ port: Number(values.text), token, ...kept }),
  startChatStandIn({ port: Number(values.chat), key, ...kept })
]);
const where = {
  smtpPort: mail.smtpPort,
  httpPort: mail.httpPort,
  text: `http://127.0.0.1:${text.port}`,
  textToken: token,
  chat: `http://127.0.0.1:${chat.port}`,
  chatHook: `http://127.0.0.1:${chat.port}/hooks/${key}`
};
process.stdout.write(`${JSON.stringify(where)}\n`);
const close = () =>
  void Promise.all([mail, text, chat].map((one) => one.close())).then(() => process.exit(0));
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, close);
// Whoever started them is gone: nothing is left to stand in for.
process.stdin.resume().once('end', close);
