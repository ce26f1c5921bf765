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

  /** Starts it. */
  begin(): ChildProcess {
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
    return (this.#child = child);
  }

  /** Starts it and waits until it is ready. */
  async start(): Promise<void> {
    if (this.#child) return;
    const child = this.begin();
    for (;;) {
      if (child.exitCode !== null) throw new Error(`The server ended by itself (${child.exitCode}).`);
      const answer = await fetch(`${this.origin}/readyz`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  /** Of its process. */
  get pid(): number {
    return this.#child!.pid!;
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
    const response = await this.#json(path, body);
    if (!response?.ok) return null;
    return (await response.json().catch(() => null)) as Record<string, unknown> | null;
  }

  /** The same, for whoever looks at the status alone; 0 where the server went away. */
  async send(path: string, body: unknown): Promise<number> {
    const response = await this.#json(path, body);
    await response?.text().catch(() => '');
    return response?.status ?? 0;
  }

  #json(path: string, body: unknown): Promise<Response | null> {
    return fetch(`${this.origin}${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie: this.#cookie, origin: this.origin },
      body: JSON.stringify(body)
    }).catch(() => null);
  }

  /** Sends a file with tasks. @returns the token under which it can be imported, or null where the server went away or refused */
  async upload(csv: string): Promise<string | null> {
    const response = await fetch(`${this.origin}/tasks/import/upload?name=tasks.csv`, {
      method: 'PUT',
      headers: { cookie: this.#cookie, origin: this.origin },
      body: csv
    }).catch(() => null);
    if (!response?.ok) return null;
    const answer = (await response.json().catch(() => null)) as { token?: string } | null;
    return answer?.token ?? null;
  }

  /** Presses a button of a page, as a page that is open does. @returns the change that was made, or null where none was */
  async act(path: string): Promise<number | null> {
    const response = await fetch(`${this.origin}${path}`, {
      method: 'POST',
      headers: {
        ...{ 'content-type': 'application/x-www-form-urlencoded', accept: 'application/json' },
        ...{ 'x-sveltekit-action': 'true', cookie: this.#cookie, origin: this.origin }
      },
      body: ''
    }).catch(() => null);
    const answer = (await response?.json().catch(() => null)) as { type?: string; data?: string } | null;
    if (answer?.type !== 'success') return null;
    // The data is written as `devalue` writes it: a list of values that refer to each other by their places.
    const values = JSON.parse(answer.data!) as unknown[];
    return values[(values[0] as { changeId: number }).changeId] as number;
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
    return (await this.readTimed(path)).status;
  }

  /** Reads a page. @returns its status, and when its first byte was there, ms; what comes after the page is read too */
  async readTimed(path: string): Promise<{ status: number; ms: number }> {
    const asked = performance.now();
    const response = await fetch(`${this.origin}${path}`, { headers: { cookie: this.#cookie } }).catch(
      () => null
    );
    const ms = performance.now() - asked;
    await response?.text().catch(() => '');
    return { status: response?.status ?? 0, ms };
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
