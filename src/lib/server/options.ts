import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { CodedError } from '../core/errors.ts';
import { parseInstant } from '../core/time/instant.ts';
import type { Channel } from './channel/channel.ts';
import type { MailRoute } from './channel/mail-route.ts';
import type { TextGateway } from './channel/text.ts';
import type { Db } from './db/open.ts';
import type { SealKeys } from './db/seal.ts';
import type { MachineClock } from './engine/clock.ts';
import type { PostRoomAddresses } from './message/post-room.ts';

/** With what an application is put together. */
export interface ContainerOptions {
  /** Folder of the workspace, or `:memory:`. */
  dataDir: string;
  /** What secrets are sealed with; absent: the key in a file beside the database. */
  sealKeys?: SealKeys;
  /** Names, addresses and networks inside that channels may be set to talk to. */
  inside?: readonly string[];
  /** A workspace that is open already, a copy for one, instead of the file in `dataDir`. */
  db?: Db;
  /** Where messages go instead of by mail: nowhere, for what is only looked at. */
  channels?: readonly Channel[];
  /** A demo's clock can be moved, and its people sign in by one press. */
  demo: boolean;
  /** Where the clock of a new demo starts, ms. */
  startAtMs?: number;
  mail: MailRoute;
  /** The gateway for text messages, and the address of the chat's incoming webhook, unless the settings say others; absent: none. */
  text?: TextGateway | null;
  chat?: string | null;
  /** Where reports about mail that came back are taken; absent: nowhere. 0 lets the machine choose. */
  returnPort?: number;
  /** Addresses at which stand-ins list what they have received; absent where there are none. */
  postRoom?: PostRoomAddresses;
  /** Public address of the application, for links in messages. */
  origin: string;
  machine?: MachineClock;
  chance?: () => number;
  logLevel?: string;
  /** Where the log goes; absent: to standard output. */
  logTo?: { write(line: string): void };
  /** What a thread runs in which is done what takes long; absent: it is done on the spot. */
  threadFile?: string;
  /** Who shows it reads what the application counts of itself; absent: nobody does. */
  metricsToken?: string;
}

/** Built beside the server, which is started from the folder that holds both. */
const THREAD_FILE = resolve('build', 'parts', 'thread.js');

/**
 * Reads the environment that the application is started with. docs/operations.md lists what each name means.
 * @throws CodedError when a value cannot be read
 */
export function containerOptions(env: Record<string, string | undefined>): ContainerOptions {
  const port = env.PORT ?? '3000';
  return {
    dataDir: env.EARLY_BELL_DATA ?? 'data',
    demo: env.EARLY_BELL_DEMO === '1',
    startAtMs: env.EARLY_BELL_AT ? parseInstant(env.EARLY_BELL_AT) : undefined,
    mail: {
      host: env.EARLY_BELL_SMTP_HOST ?? '127.0.0.1',
      port: portNumber(env.EARLY_BELL_SMTP_PORT ?? '25')
    },
    text: env.EARLY_BELL_TEXT_URL
      ? {
          url: env.EARLY_BELL_TEXT_URL,
          token: env.EARLY_BELL_TEXT_TOKEN ?? null,
          from: env.EARLY_BELL_TEXT_FROM ?? 'Early Bell'
        }
      : null,
    chat: env.EARLY_BELL_CHAT_URL ?? null,
    ...(env.EARLY_BELL_RETURN_PORT ? { returnPort: portNumber(env.EARLY_BELL_RETURN_PORT) } : {}),
    postRoom: {
      mail: env.EARLY_BELL_POST_ROOM ?? null,
      text: env.EARLY_BELL_POST_ROOM_TEXT ?? null,
      chat: env.EARLY_BELL_POST_ROOM_CHAT ?? null
    },
    ...(existsSync(THREAD_FILE) ? { threadFile: THREAD_FILE } : {}),
    ...(env.EARLY_BELL_METRICS_TOKEN ? { metricsToken: env.EARLY_BELL_METRICS_TOKEN } : {}),
    ...(env.EARLY_BELL_KEY
      ? { sealKeys: { now: env.EARLY_BELL_KEY, before: env.EARLY_BELL_KEY_BEFORE ?? null } }
      : {}),
    inside: (env.EARLY_BELL_INSIDE ?? '')
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean),
    origin: env.ORIGIN ?? `http://localhost:${port}`,
    logLevel: env.EARLY_BELL_LOG ?? 'info'
  };
}

function portNumber(text: string): number {
  const port = Number(text);
  if (!Number.isInteger(port) || port < 1 || port > 65_535) {
    throw new CodedError('bad-field', { detail: `“${text}” is not a port` }, 'EARLY_BELL_SMTP_PORT');
  }
  return port;
}
