import Database from 'better-sqlite3';
// @ts-expect-error a plain script
import { freePort } from '../../scripts/serve.mjs';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openApart } from '../../scripts/open-apart.ts';
import { startChatStandIn } from '../../standin/chat.ts';
import { startMailStandIn } from '../../standin/mail.ts';
import { startTextStandIn } from '../../standin/text.ts';
import { layOut } from './harness.ts';
import { START } from './points.ts';
import { ServerLife, type StandInPlaces } from './server-life.ts';

/** Requests under way at once. */
const HANDS = 4;
const STEP_MINUTES = 45;
const FAULTS = ['none', 'none', 'try-later', 'drop', 'refuse'];
const CHANNELS = ['mail', 'text', 'chat'] as const;
type Chance = () => number;

/** What the server has confirmed, which no kill may lose. */
interface Confirmed {
  /** The due date of a task that was answered with a yes; null while one is under way of which nothing is known. */
  dueDates: Map<number, string | null>;
  added: Set<string>;
  edits: number;
}

/** What came of killing the server. */
export interface ServerOutcome {
  /** What went wrong; empty when nothing did. */
  wrong: string[];
  /** What it had confirmed before it was killed, and how many messages arrived. */
  edits: number;
  arrived: number;
}

/**
 * Kills the web server under load, with faults on, again and again over one workspace, and then looks at what is there.
 * @param chance numbers from 0 to 1
 * @param onKill is told after each kill how many there were
 */
export async function killServer(
  rounds: number,
  chance: Chance,
  onKill: (kills: number) => void = () => {}
): Promise<ServerOutcome> {
  const laidOut = await layOut();
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-server-'));
  cpSync(laidOut, folder, { recursive: true });
  rmSync(laidOut, { recursive: true });
  const taskIds = everyChannel(folder);
  const [mail, text, chat] = await Promise.all([
    startMailStandIn({ smtpPort: 0, httpPort: 0 }),
    startTextStandIn({ port: 0, token: 'token' }),
    startChatStandIn({ port: 0, key: 'key' })
  ]);
  const at = (port: number) => `http://127.0.0.1:${port}`;
  const lists = { mail: at(mail.httpPort), text: at(text.port), chat: at(chat.port) };
  const server = await ServerLife.over(folder, {
    ...{ smtpPort: mail.smtpPort, httpPort: mail.httpPort, returnPort: (await freePort()) as number },
    ...{ text: lists.text, textToken: 'token', chat: lists.chat, chatHook: `${lists.chat}/hooks/key` }
  } satisfies StandInPlaces);
  const confirmed: Confirmed = { dueDates: new Map(), added: new Set(), edits: 0 };
  try {
    for (let round = 0; round < rounds; round++) {
      await server.start();
      if (round === 0) await server.signIn(1);
      for (const channel of CHANNELS) await setFault(lists[channel], pickOf(FAULTS, chance));
      const load = underLoad(server, taskIds, confirmed, chance);
      await new Promise((resolve) => setTimeout(resolve, 100 + chance() * 1_500));
      await server.kill();
      await load;
      onKill(round + 1);
    }
    for (const channel of CHANNELS) await setFault(lists[channel], 'none');
    await server.start();
    await settle(server, folder);
    await server.stop();
    return await wrongIn(folder, lists, confirmed);
  } finally {
    await server.kill();
    await Promise.all([mail, text, chat].map((one) => one.close()));
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The demo's people get every channel. @returns the ids of the tasks */
function everyChannel(folder: string): number[] {
  const db = new Database(join(folder, 'early-bell.sqlite'));
  const channels = JSON.stringify(
    Object.fromEntries(
      ['due today', 'reminder', 'overdue'].map((kind) => [kind, ['mail', 'text', 'chat', 'in-app']])
    )
  );
  db.prepare(`UPDATE person SET channels = ?, phone = '+351 265 555 0' || id, chat = lower(name)`).run(
    channels
  );
  const ids = db.prepare<[], number>('SELECT id FROM task ORDER BY id').pluck().all();
  db.close();
  return ids;
}

async function setFault(list: string, fault: string): Promise<void> {
  await fetch(`${list}/fault`, { method: 'PUT', body: JSON.stringify({ fault }) });
}

/** The clock goes on, tasks are added and get other dates, pages are read, until the server is gone. */
async function underLoad(
  server: ServerLife,
  taskIds: readonly number[],
  confirmed: Confirmed,
  chance: Chance
): Promise<void> {
  let gone = false;
  const clock = async () => {
    while (!gone) {
      const moment = new Date(START + (moved += STEP_MINUTES) * 60_000).toISOString();
      gone =
        (await server.post('/clock', {
          to: 'moment',
          date: moment.slice(0, 10),
          time: moment.slice(11, 16)
        })) === null;
    }
  };
  const hand = async (which: number) => {
    // Each hand has tasks of its own, so that what one was told does not hang on what another did.
    const own = taskIds.filter((_, i) => i % HANDS === which);
    while (!gone) {
      const taskId = pickOf(own, chance);
      const date = `2026-03-${String(6 + Math.floor(chance() * 20)).padStart(2, '0')}`;
      confirmed.dueDates.set(taskId, null);
      if (await server.post(`/tasks/${taskId}/field`, { patch: { dueDate: date } })) {
        confirmed.dueDates.set(taskId, date);
        confirmed.edits++;
      } else gone = true;
      const name = `Added ${which} ${Math.floor(chance() * 1e9)}`;
      if (
        !gone &&
        (await server.post('/quick-add', { line: `${name} due 2026-03-20`, answers: {}, add: true }))
      )
        confirmed.added.add(name);
      if (!gone && (await server.read('/tasks')) !== 200) gone = true;
    }
  };
  await Promise.all([clock(), ...Array.from({ length: HANDS }, (_, i) => hand(i))]);
}
let moved = 0;

/** Waits until nothing is under way any more; what waits for its next try is tried at once. */
async function settle(server: ServerLife, folder: string): Promise<void> {
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  try {
    for (let i = 0; i < 200; i++) {
      await server.submit('/post-room?/fault', { channel: 'mail', fault: 'none' });
      await new Promise((resolve) => setTimeout(resolve, 100));
      const left = db
        .prepare<[], number>(`SELECT count(*) FROM delivery WHERE state IN ('queued', 'leased')`)
        .pluck()
        .get();
      if (left === 0) return;
    }
  } finally {
    db.close();
  }
}

/** Compares what is recorded with what was confirmed and with what arrived. */
async function wrongIn(
  folder: string,
  lists: Record<(typeof CHANNELS)[number], string>,
  confirmed: Confirmed
): Promise<ServerOutcome> {
  const wrong: string[] = [];
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  const rows = <T>(sql: string) => db.prepare<[], T>(sql).all();
  for (const { integrity_check: said } of rows<{ integrity_check: string }>('PRAGMA integrity_check'))
    if (said !== 'ok') wrong.push(`the database: ${said}`);
  for (const fault of rows('PRAGMA foreign_key_check')) wrong.push(`a reference: ${JSON.stringify(fault)}`);
  const dates = new Map(
    rows<{ id: number; due: string }>('SELECT id, due_date AS due FROM task').map((one) => [one.id, one.due])
  );
  for (const [taskId, date] of confirmed.dueDates)
    if (date !== null && dates.get(taskId) !== date)
      wrong.push(`task ${taskId} was confirmed as due on ${date} and is due on ${dates.get(taskId)}`);
  const names = new Set(rows<{ name: string }>('SELECT name FROM task').map(({ name }) => name));
  for (const name of confirmed.added)
    if (!names.has(name)) wrong.push(`“${name}” was confirmed and is not there`);
  const deliveries = rows<Delivery>(
    `SELECT d.channel, d.state, d.address, d.in_doubt AS inDoubt, m.message_id AS messageId
     FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.channel <> 'in-app'`
  );
  const unended = rows<{ count: number }>(
    `SELECT count(*) AS count FROM notice n WHERE n.state = 'sending' OR
       (n.state IN ('sent', 'failed') AND NOT EXISTS (SELECT 1 FROM message_notice mn WHERE mn.notice_id = n.id))`
  )[0]!.count;
  if (unended > 0) wrong.push(`${unended} notices have no end, or one without a message`);
  db.close();
  let messages = 0;
  for (const channel of CHANNELS) {
    const copies = await arrived(lists[channel]);
    messages += copies.size;
    wrong.push(
      ...wrongOf(
        channel,
        deliveries.filter((one) => one.channel === channel),
        copies
      )
    );
  }
  wrong.push(...(await wrongPlan(folder)));
  const edits = confirmed.edits + confirmed.added.size;
  return { wrong, edits, arrived: messages };
}

interface Delivery {
  channel: string;
  state: string;
  address: string;
  inDoubt: 0 | 1;
  messageId: string;
}

/** By what a repeat is known, with how often it arrived. */
async function arrived(list: string): Promise<Map<string, number>> {
  const copies = new Map<string, number>();
  for (let offset = 0; ; offset += 1_000) {
    const answer = await fetch(`${list}/messages?limit=1000&offset=${offset}`);
    const { total, messages } = (await answer.json()) as {
      total: number;
      messages: { messageId: string; copies: number }[];
    };
    for (const one of messages) copies.set(one.messageId, one.copies);
    if (offset + 1_000 >= total) return copies;
  }
}

function wrongOf(channel: string, deliveries: readonly Delivery[], copies: Map<string, number>): string[] {
  const wrong: string[] = [];
  const known = new Map(
    deliveries.map((one) => [channel === 'text' ? `${one.messageId} ${one.address}` : one.messageId, one])
  );
  for (const [key, { state }] of known) {
    if (state === 'queued' || state === 'leased') wrong.push(`${channel}: ${key} never ended`);
    if (state === 'accepted' && !copies.has(key))
      wrong.push(`${channel}: ${key} is recorded and did not arrive`);
  }
  for (const [key, times] of copies) {
    const delivery = known.get(key);
    if (!delivery) wrong.push(`${channel}: ${key} arrived and is not recorded`);
    else if (times > 1 && !delivery.inDoubt)
      wrong.push(`${channel}: ${key} arrived ${times} times and is not in doubt`);
  }
  return wrong;
}

/** What is planned must be what a fresh computation plans. */
async function wrongPlan(folder: string): Promise<string[]> {
  const container = openApart(folder);
  container.clock.set(container.clock.now(), false);
  const plan = () =>
    container.db
      .prepare<[], string>(
        `SELECT rule_id || '/' || lead_id || '/' || task_id || '/' || recipient_id || '/' || ring_at FROM plan ORDER BY 1`
      )
      .pluck()
      .all();
  const now = container.clock.now();
  await container.engine.moveClock(now);
  const kept = plan();
  container.stores.plan.enqueueAll();
  await container.engine.moveClock(now);
  const fresh = plan();
  await container.stop();
  const lost = fresh.filter((one) => !kept.includes(one)).map((one) => `not planned: ${one}`);
  return [
    ...lost,
    ...kept.filter((one) => !fresh.includes(one)).map((one) => `planned and should not be: ${one}`)
  ];
}

function pickOf<T>(all: readonly T[], chance: Chance): T {
  return all[Math.floor(chance() * all.length)]!;
}
