import { CodedError } from '../../core/errors.ts';

/** A password is hashed in 64 MiB and a quarter of a second of a core: no more than so many at once. */
const AT_ONCE = 2;
/** So many wait their turn, one of each client. */
const MOST_WAITING = 8;
/** Failed tries of one client, at whatever addresses, before it has to wait; and for how long they count. */
const CLIENT_FAILURES = 50;
const CLIENT_WINDOW_MS = 15 * 60_000;
/** A client that is not let try is written down so often. */
const SAID_EVERY_MS = 60_000;
/** Clients that are remembered; the oldest are forgotten first. */
const MOST_CLIENTS = 10_000;

interface Failures {
  count: number;
  /** Machine clock: from when they count. */
  since: number;
}

interface Waiting {
  client: string;
  go: () => void;
}

/** Whoever has an IPv6 address has at least a network of 64 bits of them (RFC 6177 §2): these are one client. */
export function clientOf(address: string): string {
  if (!address.includes(':') || address.startsWith('::ffff:')) return address;
  const [head = ''] = address.split('::');
  return head.split(':').slice(0, 4).join(':');
}

/**
 * Lets tries to sign in to the work that they cost, a few at a time: whoever tries at random keeps nobody else out. Kept in memory; what is counted by address
 * is in the database.
 */
export class SignInGate {
  readonly #now: () => number;
  readonly #failures = new Map<string, Failures>();
  /** Until when nothing more is said of a client, machine clock. */
  readonly #said = new Map<string, number>();
  readonly #waiting: Waiting[] = [];
  readonly #running: string[] = [];

  /** @param now machine clock */
  constructor(now: () => number) {
    this.#now = now;
  }

  /** @throws CodedError `sign-in-slowed` where a client has failed too often of late */
  check(client: string): void {
    const failures = this.#failures.get(client);
    if (!failures || failures.count < CLIENT_FAILURES) return;
    const left = failures.since + CLIENT_WINDOW_MS - this.#now();
    if (left > 0) throw new CodedError('sign-in-slowed', { seconds: Math.ceil(left / 1000) });
    this.#failures.delete(client);
  }

  /** Whether something is to be said of a client that is not let try: once a minute, however often it comes. */
  speaksOf(client: string): boolean {
    const now = this.#now();
    if ((this.#said.get(client) ?? 0) > now) return false;
    if (this.#said.size >= MOST_CLIENTS) this.#said.clear();
    this.#said.set(client, now + SAID_EVERY_MS);
    return true;
  }

  /** A try of this client has failed. */
  fail(client: string): void {
    const now = this.#now();
    const before = this.#failures.get(client);
    const counts = before !== undefined && now - before.since < CLIENT_WINDOW_MS;
    this.#failures.delete(client);
    this.#failures.set(client, counts ? { ...before, count: before.count + 1 } : { count: 1, since: now });
    const [oldest] = this.#failures.keys();
    if (this.#failures.size > MOST_CLIENTS) this.#failures.delete(oldest!);
  }

  /** One that was counted as failed has proved right. */
  right(client: string): void {
    const failures = this.#failures.get(client);
    if (failures) failures.count = Math.max(0, failures.count - 1);
  }

  /**
   * Does some work when its turn comes.
   * @throws CodedError `sign-in-busy` where too many wait already, or this client does
   */
  async pass<T>(client: string, work: () => Promise<T>): Promise<T> {
    await this.#turn(client);
    try {
      return await work();
    } finally {
      this.#running.splice(this.#running.indexOf(client), 1);
      this.#next();
    }
  }

  async #turn(client: string): Promise<void> {
    if (this.#running.length < AT_ONCE && !this.#running.includes(client)) {
      this.#running.push(client);
      return;
    }
    if (this.#waiting.length >= MOST_WAITING || this.#waiting.some((one) => one.client === client))
      throw new CodedError('sign-in-busy');
    await new Promise<void>((go) => this.#waiting.push({ client, go }));
  }

  /** Whose turn it is: the first of those of whom none is at work. */
  #next(): void {
    const at = this.#waiting.findIndex(({ client }) => !this.#running.includes(client));
    const [next] = at < 0 ? [] : this.#waiting.splice(at, 1);
    if (!next) return;
    this.#running.push(next.client);
    next.go();
  }
}
