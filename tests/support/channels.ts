import { createServer, type Server } from 'node:http';
import { afterEach, beforeEach } from 'vitest';
import type { ChannelChoice } from '../../src/lib/core/channel/ways.ts';
import { readTextReference } from '../../src/lib/core/channel/text-address.ts';
import type { Tell } from '../../src/lib/core/rule/step-model.ts';
import { type ChannelSettingsInput } from '../../src/lib/server/settings/channel/form.ts';
import { startMailStandIn, type MailStandIn } from '../../standin/mail.ts';
import { lead, openWorkspace, ruleOf, ruleOn, taskInput, type TestWorkspace } from './workspace.ts';

/** Thursday; Ines is in Lisbon and works from nine. */
export const START = '2026-03-05T07:00Z';
export const NINE = Date.parse('2026-03-05T09:00Z');
export const NO_RATE = { perMinute: null, perAddress: null };
export const NOTHING: ChannelSettingsInput = {
  ...{ mail: [], text: null, chat: { does: 'keep' }, keepsMail: false },
  rates: { mail: NO_RATE, text: NO_RATE, chat: NO_RATE }
};

/** The workspace of the test under way. */
export let workspace: TestWorkspace;
let receipts: Server;
/** Mail servers besides the workspace's own. */
export const extra: MailStandIn[] = [];

/** Each test of a file has a workspace of its own with every channel set, on Thursday 5 March 2026 at 07:00 UTC. */
export function eachWithEveryChannel(): void {
  beforeEach(async () => {
    // Where the gateway brings its receipts; the application's own route is a few lines around the same call.
    receipts = createServer((request, response) => {
      let text = '';
      request.on('data', (chunk) => (text += String(chunk)));
      request.on('end', () => {
        const { reference, status, reason } = JSON.parse(text) as Record<string, string>;
        const { messageId, phone } = readTextReference(reference!);
        workspace.container.outbox.receipt('text', messageId, phone, status === 'arrived' ? null : reason!);
        response.end();
      });
    });
    await new Promise<void>((resolve) => receipts.listen(0, '127.0.0.1', resolve));
    const { port } = receipts.address() as { port: number };
    workspace = await openWorkspace(START, { everyChannel: true, origin: `http://127.0.0.1:${port}` });
  });
  afterEach(async () => {
    // The lines to them are closed first.
    await workspace.close();
    await Promise.all(extra.splice(0).map((one) => one.close()));
    receipts.close();
  });
}

/** How Ines is reached, and what she wants to hear how. */
export function reach(
  channels: ChannelChoice,
  addresses: { phone?: string | null; email?: string } = {}
): void {
  const { container, coordinator, people } = workspace;
  container.committer.commit(coordinator, 'reached', (writer) =>
    writer.update('person', people.Ines!, {
      ...{ chat: 'ines', phone: '+351 265 555 010', channels: JSON.stringify(channels) },
      ...addresses
    })
  );
}

/** Tasks of Ines that are due today, and a rule that rings for each at nine. */
export async function rung(tell: Partial<Tell> = {}, count = 1): Promise<void> {
  const { container, coordinator, people } = workspace;
  for (let i = 1; i <= count; i++)
    container.tasks.add(
      coordinator,
      taskInput({ name: `Permit ${i}`, ownerId: people.Ines!, dueDate: '2026-03-05' })
    );
  ruleOn(workspace, ruleOf([lead(0, 'day', { time: '09:00' })], tell));
  await container.engine.moveClock(NINE);
}

export const deliveries = () =>
  workspace.container.db
    .prepare('SELECT channel, address, state, attempt, last_answer AS answer FROM delivery ORDER BY id')
    .all() as { channel: string; address: string; state: string; attempt: number; answer: string | null }[];
export const states = () => deliveries().map(({ channel, state }) => `${channel} ${state}`);
export const doubts = () =>
  workspace.container.db.prepare('SELECT in_doubt FROM delivery ORDER BY id').pluck().all();
export const notice = () =>
  workspace.container.db.prepare('SELECT state, reason FROM notice').get() as Record<string, unknown>;
export const inbox = async (channel: 'text' | 'chat') => {
  const { messages } = await workspace.container.postRoom.list('', 0, 100, channel);
  return messages;
};
export const save = (patch: Partial<ChannelSettingsInput>) =>
  workspace.container.channelSettings.save(workspace.coordinator, { ...NOTHING, ...patch });

/** Another mail server, closed with the test. @param secured on an encrypted line, by name and password */
export async function anotherServer(
  secured?: Parameters<typeof startMailStandIn>[0]['secured']
): Promise<MailStandIn> {
  const one = await startMailStandIn({ smtpPort: 0, httpPort: 0, ...(secured ? { secured } : {}) });
  extra.push(one);
  return one;
}

/** A mail server of this machine, as the form gives it. */
export function mailRoute(port: number, patch: Partial<ChannelSettingsInput['mail'][number]> = {}) {
  return {
    ...{ host: '127.0.0.1', port, tls: 'none' as const, user: '', password: null, ca: '' },
    ...patch
  };
}
