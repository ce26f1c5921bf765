import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { CodedError } from '../../core/errors.ts';

/** AES-256 in Galois/Counter Mode (NIST SP 800-38D): its key, nonce and tag in bytes. */
const CIPHER = 'aes-256-gcm';
const KEY_BYTES = 32;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;
/** How a sealed value begins; none that was kept open begins so. */
const SEALED = 1;
/** Beside the database, and in no backup of it. */
const KEY_FILE = 'early-bell.key';

/** The keys that secrets in the database are sealed with: what is kept now, and what may have been before. */
export interface SealKeys {
  /** Base64 of 32 bytes. */
  now: string;
  /** While a key is changed: the one before. */
  before: string | null;
}

/** Seals what lets somebody in or send in the workspace's name, so that a copy of the database alone gives none of it. */
export class Seal {
  readonly #key: Buffer;
  readonly #before: Buffer | null;

  constructor({ now, before }: SealKeys) {
    this.#key = keyFrom(now);
    this.#before = before === null ? null : keyFrom(before);
  }

  /** @param name what it is: it can be opened as nothing else */
  seal(name: string, value: Buffer): Buffer {
    const nonce = randomBytes(NONCE_BYTES);
    const cipher = createCipheriv(CIPHER, this.#key, nonce);
    cipher.setAAD(Buffer.from(name));
    const body = Buffer.concat([cipher.update(value), cipher.final()]);
    return Buffer.concat([Buffer.from([SEALED]), nonce, cipher.getAuthTag(), body]);
  }

  /** Null where it was sealed with a key that is not known here, or is not whole. */
  open(name: string, sealed: Buffer): Buffer | null {
    return openWith(this.#key, name, sealed) ?? (this.#before && openWith(this.#before, name, sealed));
  }

  /** Whether a value is sealed with the key of now. */
  isSealed(name: string, value: Buffer): boolean {
    return openWith(this.#key, name, value) !== null;
  }

  /** What was kept before anything was sealed; null for what is sealed. */
  static openAsItWas(value: Buffer): Buffer | null {
    return value[0] === SEALED ? null : value;
  }
}

function openWith(key: Buffer, name: string, sealed: Buffer): Buffer | null {
  if (sealed[0] !== SEALED || sealed.length < 1 + NONCE_BYTES + TAG_BYTES) return null;
  const nonce = sealed.subarray(1, 1 + NONCE_BYTES);
  const decipher = createDecipheriv(CIPHER, key, nonce, { authTagLength: TAG_BYTES });
  decipher.setAAD(Buffer.from(name));
  decipher.setAuthTag(sealed.subarray(1 + NONCE_BYTES, 1 + NONCE_BYTES + TAG_BYTES));
  try {
    return Buffer.concat([decipher.update(sealed.subarray(1 + NONCE_BYTES + TAG_BYTES)), decipher.final()]);
  } catch {
    // The tag does not fit: another key, another name, or changed bytes. Which it is nobody can tell.
    return null;
  }
}

/**
 * The key beside a workspace, made the first time: readable for its user alone.
 * @param dir folder of the workspace; `:memory:` for one that is nowhere, whose key is nowhere either
 */
export function keyBeside(dir: string): string {
  if (dir === ':memory:') return randomBytes(KEY_BYTES).toString('base64');
  const file = join(dir, KEY_FILE);
  if (!existsSync(file)) {
    mkdirSync(dir, { recursive: true, mode: 0o700 });
    writeFileSync(file, `${randomBytes(KEY_BYTES).toString('base64')}\n`, { mode: 0o600, flag: 'wx' });
  }
  return readFileSync(file, 'utf8').trim();
}

/** @throws CodedError `bad-field` where it is not 32 bytes of base64 */
function keyFrom(text: string): Buffer {
  const key = Buffer.from(text, 'base64');
  if (key.length !== KEY_BYTES)
    throw new CodedError(
      'bad-field',
      { detail: 'The key is not 32 bytes, written as base64' },
      'EARLY_BELL_KEY'
    );
  return key;
}
