import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';

/** scrypt (RFC 7914) with 64 MiB for each try: memory is what makes guessing dear. */
const COST = { N: 2 ** 16, r: 8, p: 1, maxmem: 160 * 2 ** 20 };
const KEY_BYTES = 32;

/** The hash of a password with its salt and cost, as one text. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password, salt, COST.N);
  return `scrypt:${COST.N}:${salt.toString('base64url')}:${key.toString('base64url')}`;
}

/** Whether a password has this hash; takes the same time whether or not it does. */
export async function verifyPassword(password: string, hash: string): Promise<boolean> {
  const [, cost, salt, key] = hash.split(':');
  const expected = Buffer.from(key ?? '', 'base64url');
  const given = await derive(password, Buffer.from(salt ?? '', 'base64url'), Number(cost));
  return expected.length === given.length && timingSafeEqual(expected, given);
}

function derive(password: string, salt: Buffer, cost: number): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    scrypt(password.normalize('NFKC'), salt, KEY_BYTES, { ...COST, N: cost }, (error, key) => {
      if (error) reject(error);
      else resolve(key);
    });
  });
}
