import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
// @ts-expect-error a plain script
import { freePort } from '../../scripts/serve.mjs';
import { BadLine } from './bad-line.ts';
import type { StandInPlaces } from './server-life.ts';

export const CHANNELS = ['mail', 'text', 'chat'] as const;
export type StandInChannel = (typeof CHANNELS)[number];

/** The stand-ins as a process of their own that can be killed and started again at the same places, each behind a line that can behave badly. */
export class StandIns {
  readonly lines: Record<StandInChannel, BadLine>;
  /** Where each lists what it has, past its line. */
  readonly lists: Record<StandInChannel, string>;
  readonly #places: StandInPlaces;
  readonly #dir: string;
  readonly #args: readonly string[];
  #child: ChildProcess | null = null;

  private constructor(
    dir: string,
    args: readonly string[],
    { lines, lists, places }: { lines: StandIns['lines']; lists: StandIns['lists']; places: StandInPlaces }
  ) {
    this.#dir = dir;
    this.#args = args;
    this.lines = lines;
    this.lists = lists;
    this.#places = places;
  }

  static async open(): Promise<StandIns> {
    const dir = mkdtempSync(join(tmpdir(), 'early-bell-stand-ins-'));
    const ports: number[] = [];
    for (let i = 0; i < 5; i++) ports.push((await freePort()) as number);
    const [smtp, http, text, chat, returns] = ports as [number, number, number, number, number];
    const [token, key] = [randomUUID(), randomUUID()];
    const given = { smtp, http, text, chat, returns, token, key, dir };
    const args = Object.entries(given).flatMap(([name, value]) => [`--${name}`, String(value)]);
    const lines = {
      mail: await BadLine.to(smtp),
      text: await BadLine.to(text),
      chat: await BadLine.to(chat)
    };
    const at = (port: number) => `http://127.0.0.1:${port}`;
    const made = new StandIns(dir, args, {
      lines,
      lists: { mail: at(http), text: at(text), chat: at(chat) },
      places: {
        ...{ smtpPort: lines.mail.port, httpPort: http, returnPort: returns },
        ...{ text: at(lines.text.port), textToken: token },
        ...{ chat: at(lines.chat.port), chatHook: `${at(lines.chat.port)}/hooks/${key}` }
      }
    });
    await made.start();
    return made;
  }

  /** Where the server finds them. */
  get places(): StandInPlaces {
    return this.#places;
  }

  async start(): Promise<void> {
    const child = spawn(process.execPath, ['build/parts/stand-ins.js', ...this.#args], {
      stdio: ['pipe', 'pipe', 'inherit']
    });
    this.#child = child;
    await once(child.stdout, 'data');
  }

  async kill(): Promise<void> {
    const child = this.#child;
    this.#child = null;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    child.kill('SIGKILL');
    await once(child, 'exit');
  }

  /** What an answer is: `none` for as it should be. */
  async answer(channel: StandInChannel, fault: string): Promise<void> {
    await fetch(`${this.lists[channel]}/fault`, { method: 'PUT', body: JSON.stringify({ fault }) });
  }

  /** By what a repeat is known, with how often it arrived. */
  async arrived(channel: StandInChannel): Promise<Map<string, number>> {
    const copies = new Map<string, number>();
    for (let offset = 0; ; offset += 1_000) {
      const answer = await fetch(`${this.lists[channel]}/messages?limit=1000&offset=${offset}`);
      const { total, messages } = (await answer.json()) as {
        total: number;
        messages: { messageId: string; copies: number }[];
      };
      for (const one of messages) copies.set(one.messageId, one.copies);
      if (offset + 1_000 >= total) return copies;
    }
  }

  async close(): Promise<void> {
    await this.kill();
    await Promise.all(CHANNELS.map((channel) => this.lines[channel].close()));
    rmSync(this.#dir, { recursive: true, force: true });
  }
}
