import Database from 'better-sqlite3';
import { join } from 'node:path';
import { openApart } from '../../scripts/open-apart.ts';
import { FILE_ROWS, type Confirmed, type Shares } from './hands.ts';
import { foretell } from './harness.ts';
import { CHANNELS, type StandIns } from './stand-ins.ts';

interface Delivery {
  channel: string;
  state: string;
  address: string;
  inDoubt: 0 | 1;
  messageId: string;
}

const DATABASE = 'early-bell.sqlite';

/** Whether the database of a workspace holds together: asked after every kill. */
export function wrongInFile(folder: string): string[] {
  const db = new Database(join(folder, DATABASE), { readonly: true });
  try {
    const said = db.pragma('integrity_check') as { integrity_check: string }[];
    const references = db.pragma('foreign_key_check') as unknown[];
    return [
      ...said.flatMap(({ integrity_check }) =>
        integrity_check === 'ok' ? [] : `the database: ${integrity_check}`
      ),
      ...references.map((fault) => `a reference: ${JSON.stringify(fault)}`)
    ];
  } finally {
    db.close();
  }
}

/** Compares what is recorded with what was confirmed, with what arrived, and with what was foretold. */
export async function wrongIn(
  { folder, laidOut }: { folder: string; laidOut: string },
  standIns: StandIns,
  confirmed: Confirmed,
  shares: Shares
): Promise<{ wrong: string[]; arrived: number }> {
  const db = new Database(join(folder, DATABASE), { readonly: true });
  const rows = <T>(sql: string) => db.prepare<[], T>(sql).all();
  const wrong = [
    ...wrongInFile(folder),
    ...unkept(rows, confirmed),
    ...(await unrung(rows, laidOut, shares))
  ];
  const deliveries = rows<Delivery>(
    `SELECT d.channel, d.state, d.address, d.in_doubt AS inDoubt, m.message_id AS messageId
     FROM delivery d JOIN message m ON m.id = d.message_id`
  );
  const [unended] = rows<{ count: number }>(
    `SELECT count(*) AS count FROM notice n WHERE n.state = 'sending' OR
       (n.state IN ('sent', 'failed') AND NOT EXISTS (SELECT 1 FROM message_notice mn WHERE mn.notice_id = n.id))`
  );
  if (unended!.count > 0) wrong.push(`${unended!.count} notices have no end, or one without a message`);
  const twice = rows<{ id: number }>(
    `SELECT mn.notice_id AS id FROM delivery d JOIN message_notice mn ON mn.message_id = d.message_id
     WHERE d.channel = 'in-app' GROUP BY mn.notice_id, d.address HAVING count(*) > 1`
  );
  for (const { id } of twice) wrong.push(`in the app: notice ${id} stands there twice`);
  for (const { state, messageId } of deliveries.filter(({ channel }) => channel === 'in-app'))
    if (state !== 'accepted') wrong.push(`in the app: ${messageId} is ${state}`);
  db.close();
  let arrived = 0;
  for (const channel of CHANNELS) {
    const copies = await standIns.arrived(channel);
    arrived += copies.size;
    const own = deliveries.filter((one) => one.channel === channel);
    wrong.push(...wrongOf(channel, own, copies));
  }
  wrong.push(...(await wrongPlan(folder)));
  return { wrong, arrived };
}

type Rows = <T>(sql: string) => T[];

/** What was confirmed and is not so. */
function unkept(rows: Rows, { dueDates, priorities, added, files }: Confirmed): string[] {
  const wrong: string[] = [];
  const tasks = rows<{ id: number; name: string; due: string; priority: string }>(
    'SELECT id, name, due_date AS due, priority FROM task'
  );
  const byId = new Map(tasks.map((task) => [task.id, task]));
  for (const [id, date] of dueDates)
    if (date !== null && byId.get(id)?.due !== date)
      wrong.push(`task ${id} was confirmed as due on ${date} and is due on ${byId.get(id)?.due}`);
  for (const [id, priority] of priorities)
    // A rule makes what is late pressing.
    if (priority !== null && ![priority, 'pressing'].includes(byId.get(id)?.priority ?? ''))
      wrong.push(`task ${id} was confirmed as ${priority} and is ${byId.get(id)?.priority}`);
  const names = new Set(tasks.map(({ name }) => name));
  for (const name of added) if (!names.has(name)) wrong.push(`“${name}” was confirmed and is not there`);
  for (const [name, isThere] of files) {
    const count = tasks.filter((task) => task.name.startsWith(`${name} row `)).length;
    const right = isThere === null ? [0, FILE_ROWS] : [isThere ? FILE_ROWS : 0];
    if (!right.includes(count)) wrong.push(`of “${name}” there are ${count} tasks, of ${FILE_ROWS}`);
  }
  return wrong;
}

/** What was foretold of tasks that nobody touched, and did not happen; and what happened and was not foretold. */
async function unrung(rows: Rows, laidOut: string, { untouched }: Shares): Promise<string[]> {
  const [clock] = rows<{ value: string }>(`SELECT value FROM engine_state WHERE key = 'clock'`);
  const until = (JSON.parse(clock!.value) as { workspaceMs: number }).workspaceMs;
  const isOurs = (key: string) => untouched.includes(Number(key.split('/')[2]));
  const foretold = (await foretell(laidOut, until)).filter(isOurs);
  const told = rows<{ key: string }>(
    `SELECT g.rule_id || '/' || g.lead_id || '/' || g.subject_id || '/' || n.recipient_id || '/' || n.ring_at || ' sent ' AS key
     FROM notice n JOIN ring g ON g.id = n.ring_id WHERE n.state IN ('sending', 'sent', 'failed', 'in doubt')`
  ).flatMap(({ key }) => (isOurs(key) ? key : []));
  return [
    ...foretold.filter((key) => !told.includes(key)).map((key) => `foretold and not told: ${key}`),
    ...told.filter((key) => !foretold.includes(key)).map((key) => `told and not foretold: ${key}`)
  ];
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
  const kept = new Set(plan());
  container.stores.plan.enqueueAll();
  await container.engine.moveClock(now);
  const fresh = new Set(plan());
  await container.stop();
  const lost = [...fresh].filter((one) => !kept.has(one)).map((one) => `not planned: ${one}`);
  return [
    ...lost,
    ...[...kept].filter((one) => !fresh.has(one)).map((one) => `planned and should not be: ${one}`)
  ];
}
