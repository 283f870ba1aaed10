import { randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import { phraseAsCompared } from "@/core/workshop/roles";

/** Work for one try, as a power of two: 32 MB and about a tenth of a second (N of RFC 7914, with r 8 and p 1; values from memory of common practice). */
export const COST = 15;
/** A kept phrase that says it costs more than so much was not kept by this program. */
const MOST_COST = 20;
const BYTES = 32;

const stretched = (phrase: string, salt: Buffer, cost: number): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    scrypt(phraseAsCompared(phrase), salt, BYTES, { N: 2 ** cost, r: 8, p: 1, maxmem: 2 ** (cost + 11) }, (error, key) => {
      if (error) reject(error);
      else resolve(key);
    }),
  );

/** A phrase as it is kept: salted and stretched (scrypt, RFC 7914), "scrypt$COST$SALT$HASH", the last two in base64. */
export async function hashPhrase(phrase: string, cost = COST): Promise<string> {
  const salt = randomBytes(16);
  return `scrypt$${cost}$${salt.toString("base64")}$${(await stretched(phrase, salt, cost)).toString("base64")}`;
}

/** Whether what was typed is the phrase that is kept so. */
export async function isPhrase(typed: string, stored: string): Promise<boolean> {
  const [, cost, salt, hash] = stored.split("$");
  if (!salt || !hash || !(Number(cost) >= 1 && Number(cost) <= MOST_COST)) return false;
  const held = Buffer.from(hash, "base64");
  const found = await stretched(typed, Buffer.from(salt, "base64"), Number(cost));
  return held.length === found.length && timingSafeEqual(held, found);
}
