import { spawn, type ChildProcess } from 'node:child_process';
import { createTransport } from 'nodemailer';
import { mimeOf } from '../../src/lib/server/channel/mail.ts';
import type { Container } from '../../src/lib/server/container.ts';
import { ratio, type Figure } from './measure.ts';
import { inWorkspace } from './workspace.ts';

const MESSAGES = 2_000;
const BESIDE_EACH_OTHER = 8;
const RUNS = 3;
const NOW = Date.parse('2026-03-05T07:00Z');

/** From the outbox to the mail stand-in, with everything that is written down about it, beside the mail library alone. */
export async function benchOutbox(): Promise<Figure[]> {
  const standIn = await startStandIn();
  try {
    return await inWorkspace(
      NOW,
      async (container) => {
        let ours = Infinity;
        let peer = Infinity;
        // Turn about, so that a slow phase of the machine falls on both.
        for (let run = 0; run <= RUNS; run++) {
          const [oursMs, peerMs] = [await viaOutbox(container, run), await viaLibrary(standIn.smtpPort, run)];
          if (run === 0) continue;
          ours = Math.min(ours, oursMs);
          peer = Math.min(peer, peerMs);
        }
        const perSecond = (ms: number) => `${Math.round((MESSAGES / ms) * 1_000)} messages/s`;
        return [
          {
            what: `outbox to the mail stand-in, ${MESSAGES} messages, each lease and each end on the disk`,
            ours: perSecond(ours),
            peer: `nodemailer alone, ${BESIDE_EACH_OTHER} lines: ${perSecond(peer)}`,
            ratio: ratio(peer, ours)
          }
        ];
      },
      { mail: { host: '127.0.0.1', port: standIn.smtpPort } }
    );
  } finally {
    standIn.child.kill('SIGTERM');
  }
}

const textOf = (i: number) => ({
  subject: `Calibrate gauge ${i} is due today`,
  text: `Hello,\n\nCalibrate gauge ${i} in gauge calibration is due today: Thursday 5 March.\n\nhttp://bench.example/tasks/${i}\n`,
  html: `<!doctype html><html lang="en"><body><p>Calibrate gauge ${i} is due today.</p></body></html>`
});

async function viaOutbox({ work, stores, outbox }: Container, run: number): Promise<number> {
  work.run(() => {
    for (let i = 0; i < MESSAGES; i++)
      stores.outbox.queue(
        { readerId: 1, messageId: `<ours-${run}-${i}@bench.example>`, leavesAt: NOW + i, ...textOf(i) },
        [],
        [{ readerId: 1, channel: 'mail', address: `p${i}@bench.example` }]
      );
  });
  const began = performance.now();
  await outbox.drain();
  const took = performance.now() - began;
  if (stores.outbox.unfinished() > 0) throw new Error('Not everything was delivered.');
  return took;
}

async function viaLibrary(port: number, run: number): Promise<number> {
  const transport = createTransport({
    ...{ host: '127.0.0.1', port, pool: true, maxConnections: BESIDE_EACH_OTHER, secure: false },
    ignoreTLS: true
  });
  const from = { name: 'Bench', address: 'bench@bench.example' };
  const began = performance.now();
  let next = 0;
  const line = async () => {
    while (next < MESSAGES) {
      const i = next++;
      const address = `p${i}@bench.example`;
      const message = {
        ...{ readerId: 1, readerName: '', address, to: [{ name: '', address }], leavesAt: NOW + i, link: '' },
        ...{
          messageId: `<peer-${run}-${i}@bench.example>`,
          kinds: [],
          notices: 1,
          id: 1,
          importance: 'ordinary' as const,
          attachments: []
        },
        ...textOf(i)
      };
      await transport.sendMail({
        envelope: { from: from.address, to: [address] },
        raw: await mimeOf(message, from)
      });
    }
  };
  await Promise.all(Array.from({ length: BESIDE_EACH_OTHER }, line));
  transport.close();
  return performance.now() - began;
}

/** In a process of its own, as in a real workspace: what it does must not be charged to either. */
async function startStandIn(): Promise<{ child: ChildProcess; smtpPort: number }> {
  const child = spawn(process.execPath, ['--import', './scripts/typescript.mjs', 'standin/main.ts'], {
    stdio: ['pipe', 'pipe', 'inherit']
  });
  let text = '';
  for await (const chunk of child.stdout) {
    text += String(chunk);
    if (text.includes('\n')) break;
  }
  const { smtpPort } = JSON.parse(text.slice(0, text.indexOf('\n'))) as { smtpPort: number };
  return { child, smtpPort };
}
