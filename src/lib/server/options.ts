import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { CodedError } from '../core/errors.ts';
import { parseInstant } from '../core/time/instant.ts';
import type { ContainerOptions } from './container.ts';

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
