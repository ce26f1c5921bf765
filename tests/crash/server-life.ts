import { spawn, type ChildProcess } from 'node:child_process';
// @ts-expect-error plain scripts that start the application for people and for tests alike
import { freePort, standInEnv } from '../../scripts/serve.mjs';
import { START } from './points.ts';

/** Where stand-ins are, as they say it themselves. */
export type StandInPlaces = Record<'smtpPort' | 'httpPort' | 'returnPort', number> &
  Record<'text' | 'textToken' | 'chat' | 'chatHook', string>;

/** The built server, as `npm start` starts it, over one workspace; it can be killed at any moment and started again. */
export class ServerLife {
  readonly #data: string;
  readonly #places: StandInPlaces;
  readonly #port: number;
  #child: ChildProcess | null = null;
  #cookie = '';

  private constructor(data: string, places: StandInPlaces, port: number) {
    this.#data = data;
    this.#places = places;
    this.#port = port;
  }

  static async over(data: string, places: StandInPlaces): Promise<ServerLife> {
    return new ServerLife(data, places, (await freePort()) as number);
  }

  get origin(): string {
    return `http://localhost:${this.#port}`;
  }

  /** Starts it and waits until it is ready. */
  async start(): Promise<void> {
    const child = spawn(process.execPath, ['build/parts/server.js'], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        PORT: String(this.#port),
        ORIGIN: this.origin,
        EARLY_BELL_DATA: this.#data,
        EARLY_BELL_DEMO: '1',
        EARLY_BELL_AT: new Date(START).toISOString(),
        EARLY_BELL_LOG: 'silent',
        ...(standInEnv as (places: StandInPlaces) => Record<string, string>)(this.#places)
      }
    });
    this.#child = child;
    for (;;) {
      if (child.exitCode !== null) throw new Error(`The server ended by itself (${child.exitCode}).`);
      const answer = await fetch(`${this.origin}/readyz`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  /** Ends it without a word, as a power cut does. */
  async kill(): Promise<void> {
    await this.#end('SIGKILL');
  }

  async stop(): Promise<void> {
    await this.#end('SIGTERM');
  }

  /** Comes in as a person of the demo; sessions outlive the server. */
  async signIn(personId: number): Promise<void> {
    const response = await fetch(`${this.origin}/sign-in/demo`, {
      method: 'POST',
      redirect: 'manual',
      headers: { origin: this.origin, 'content-type': 'application/x-www-form-urlencoded' },
      body: new URLSearchParams({ person: String(personId) })
    });
    this.#cookie = (response.headers.get('set-cookie') ?? '').split(';')[0]!;
  }

  /** @returns the answer, or null where the server went away or refused */
  async post(path: string, body: unknown): Promise<Record<string, unknown> | null> {
    const response = await fetch(`${this.origin}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie: this.#cookie, origin: this.origin },
      body: JSON.stringify(body)
    }).catch(() => null);
    if (!response?.ok) return null;
    return (await response.json().catch(() => null)) as Record<string, unknown> | null;
  }

  async submit(path: string, form: Record<string, string>): Promise<boolean> {
    const response = await fetch(`${this.origin}${path}`, {
      method: 'POST',
      headers: {
        'content-type': 'application/x-www-form-urlencoded',
        cookie: this.#cookie,
        origin: this.origin
      },
      body: new URLSearchParams(form)
    }).catch(() => null);
    return response?.ok ?? false;
  }

  async read(path: string): Promise<number> {
    const response = await fetch(`${this.origin}${path}`, { headers: { cookie: this.#cookie } }).catch(
      () => null
    );
    await response?.text().catch(() => '');
    return response?.status ?? 0;
  }

  async #end(signal: 'SIGKILL' | 'SIGTERM'): Promise<void> {
    const child = this.#child;
    this.#child = null;
    if (!child || child.exitCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await ended;
  }
}
