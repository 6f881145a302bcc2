import { scrypt, timingSafeEqual } from 'node:crypto';

/** scrypt's N for new passwords, with r = 8 and p = 1: 128 MB and some 0.4 s a guess (OWASP, Password Storage). */
export const STRONG = 2 ** 17;
/** For what a machine chose evenly from more than 10¹¹: 16 MB and some 50 ms a guess, so that people who come in together do not wait. */
export const LIGHT = 2 ** 14;
const BLOCK = 8;
const KEY_BYTES = 32;
const MEMORY = 256 * 1024 * 1024;

/** What is kept of a secret word instead of it. */
export function derive(word: string, salt: Buffer, cost: number): Promise<Buffer> {
  return new Promise((resolve, reject) =>
    // The same word typed on another keyboard may come composed differently.
    scrypt(
      word.normalize('NFKC'),
      salt,
      KEY_BYTES,
      { N: cost, r: BLOCK, p: 1, maxmem: MEMORY },
      (error, key) => (error ? reject(error) : resolve(key)),
    ),
  );
}

/** Whether a word is the one of which `hash` was kept; takes as long for a wrong one. `salt`, `hash`: hexadecimal. */
export async function isWord(
  word: string,
  kept: { salt: string; hash: string; cost: number },
): Promise<boolean> {
  const key = await derive(word, Buffer.from(kept.salt, 'hex'), kept.cost);
  return timingSafeEqual(key, Buffer.from(kept.hash, 'hex'));
}
