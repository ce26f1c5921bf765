import Database from 'better-sqlite3';
import { spawn } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openApart } from '../../scripts/open-apart.ts';
import { startMailStandIn } from '../../standin/mail.ts';
import { lead, ruleOf, setUpWorkspace, taskInput } from '../support/workspace.ts';
import { END, START, type CrashPoint } from './points.ts';

/** What came of one workspace: what is recorded here, and what arrived there. */
export interface Outcome {
  /** Notices by task, recipient, state and reason, in order. */
  notices: string[];
  /** Tags and copies that the rules made. */
  changes: string[];
  /** Message-ID with how often it arrived. */
  arrived: Map<string, number>;
  /** Message-IDs of deliveries that are recorded as in doubt. */
  inDoubt: Set<string>;
  unfinished: number;
}

const TASKS = 24;
const OWNERS = ['Ines', 'Nora', 'Salim', 'Meera', 'Tess'];

/** A workspace with tasks, reminders, and a rule that changes what another rule hears of; nothing has rung. */
export async function layOut(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-crash-'));
  const container = openApart(folder, START);
  container.clock.set(START, false);
  const { people, coordinator } = setUpWorkspace(container);
  for (let i = 0; i < TASKS; i++)
    container.tasks.add(
      coordinator,
      taskInput({
        name: `Task ${i}`,
        ownerId: people[OWNERS[i % OWNERS.length]!]!,
        dueDate: `2026-03-${String(6 + (i % 7)).padStart(2, '0')}`
      })
    );
  const on = (name: string, definition: ReturnType<typeof ruleOf>) => {
    const { result: id } = container.rules.add(coordinator, name, definition);
    container.rules.turnOn(coordinator, id, { name, description: '', definition });
  };
  on('On the day', ruleOf([lead(0, 'day'), lead(-1, 'workday', { id: 'before' })]));
  const marks = ruleOf([lead(1, 'day')], { subject: 'Late: ‹task›' });
  on('Late', {
    ...marks,
    steps: [
      ...marks.steps,
      {
        ...{ id: 'mark', kind: 'do', name: '', description: '', leads: null, ask: null },
        acts: [{ act: 'set priority', priority: 'pressing' }]
      }
    ]
  });
  on(
    'Became pressing',
    ruleOf([
      {
        ...{ kind: 'event', id: 'pressing', on: true, only: null, zone: { of: 'owner' }, wide: false },
        ...{ event: 'field changed', field: 'priority' }
      }
    ])
  );
  await container.stop();
  return folder;
}

/** What the forecast says of these days, before any of it has happened: notices that leave, as `Outcome` lists them. */
export async function foretell(laidOut: string, until = END): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-foretold-'));
  cpSync(laidOut, folder, { recursive: true });
  const container = openApart(folder, START);
  container.clock.set(START, false);
  const notices = container.forecasts.notices(START, until).filter(({ unrung }) => unrung === null);
  await container.stop();
  rmSync(folder, { recursive: true });
  return notices
    .map(
      ({ ruleId, leadId, taskId, recipientId, ringAt }) =>
        `${ruleId}/${leadId}/${taskId}/${recipientId}/${ringAt} sent `
    )
    .sort();
}

/**
 * Lets one life after the other go over a copy of a workspace until one comes to the end.
 * @param kill where the first life ends; absent: it comes to the end
 * @returns null where the point was not reached so often
 */
export async function live(
  laidOut: string,
  kill: { point: CrashPoint; nth: number } | null
): Promise<Outcome | null> {
  const folder = mkdtempSync(join(tmpdir(), 'early-bell-life-'));
  cpSync(laidOut, folder, { recursive: true });
  const standIn = await startMailStandIn({ smtpPort: 0, httpPort: 0 });
  const go = (more: string[]) => life(['--data', folder, '--smtp', String(standIn.smtpPort), ...more]);
  try {
    if (kill && (await go(['--point', kill.point, '--nth', String(kill.nth)])) !== 'SIGKILL') return null;
    const end = await go([]);
    if (end !== 0) throw new Error(`The last life ended with ${end}.`);
    return await outcome(folder, standIn.httpPort);
  } finally {
    await standIn.close();
    rmSync(folder, { recursive: true });
  }
}

function life(args: readonly string[]): Promise<number | string | null> {
  const child = spawn(process.execPath, ['build/parts/life.js', ...args], {
    stdio: ['ignore', 'inherit', 'inherit']
  });
  return new Promise((resolve) => child.once('exit', (code, signal) => resolve(signal ?? code)));
}

async function outcome(folder: string, httpPort: number): Promise<Outcome> {
  const db = new Database(join(folder, 'early-bell.sqlite'), { readonly: true });
  const column = (sql: string) => db.prepare<[], string>(sql).pluck().all();
  const recorded = {
    notices: column(
      `SELECT g.rule_id || '/' || g.lead_id || '/' || g.subject_id || '/' || n.recipient_id || '/' || n.ring_at || ' ' || n.state || ' ' || coalesce(n.reason, '')
       FROM notice n JOIN ring g ON g.id = n.ring_id ORDER BY 1`
    ),
    changes: column(`SELECT name || ' ' || priority FROM task ORDER BY id`),
    inDoubt: new Set(
      column('SELECT m.message_id FROM delivery d JOIN message m ON m.id = d.message_id WHERE d.in_doubt = 1')
    ),
    unfinished: Number(column(`SELECT count(*) FROM delivery WHERE state IN ('queued', 'leased')`)[0])
  };
  db.close();
  const answer = await fetch(`http://127.0.0.1:${httpPort}/messages?limit=1000`);
  const { messages } = (await answer.json()) as { messages: { messageId: string; copies: number }[] };
  return { ...recorded, arrived: new Map(messages.map(({ messageId, copies }) => [messageId, copies])) };
}

/** What went wrong: something lost, or twice without being in doubt. Empty when nothing did. */
export function differences(right: Outcome, found: Outcome): string[] {
  const wrong: string[] = [];
  if (found.unfinished > 0) wrong.push(`${found.unfinished} deliveries never ended`);
  const same = (what: string, a: readonly string[], b: readonly string[]) => {
    for (const one of a) if (!b.includes(one)) wrong.push(`${what} is missing: ${one}`);
    for (const one of b) if (!a.includes(one)) wrong.push(`${what} is too much: ${one}`);
    if (a.length !== b.length) wrong.push(`${what}: ${b.length} instead of ${a.length}`);
  };
  same('a notice', right.notices, found.notices);
  same('a change', right.changes, found.changes);
  same('a message', [...right.arrived.keys()], [...found.arrived.keys()]);
  for (const [id, copies] of found.arrived)
    if (copies > 1 && !found.inDoubt.has(id))
      wrong.push(`arrived ${copies} times and is not in doubt: ${id}`);
  return wrong;
}
